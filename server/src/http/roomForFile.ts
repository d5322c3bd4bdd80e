import type { RequestHandler } from 'express'
import type { ForeignFiles } from '../files/foreignFiles.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'

/** A file is read into about so many times its size, and a little. */
const TIMES = 30
const LEAST_MB = 20

/** Lets a file in once there is room to hold and read it; the room is free again when it has its answer. */
export const roomForFile =
  (room: MemoryRoom, files: ForeignFiles, mostMb: number): RequestHandler =>
  async (request, response, next) => {
    const bytes = Number(request.get('content-length') ?? NaN)
    const mb = Number.isFinite(bytes) ? Math.min(mostMb, bytes / 1024 ** 2) : mostMb
    const giveBack = await room.wait(mb + Math.min(files.mostMb, LEAST_MB + TIMES * mb))
    if (response.destroyed) return giveBack()
    response.on('close', giveBack)
    next()
  }
