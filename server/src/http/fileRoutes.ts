import express, { Router, type Response } from 'express'
import { sheetMappingSchema } from '@geodrome/core'
import type { SheetMappings } from '../db/sheetMappings.ts'
import type { ForeignFiles } from '../files/foreignFiles.ts'
import type { MemoryRoom } from '../threads/memoryRoom.ts'
import { askerOf } from './asker.ts'
import { roomForFile } from './roomForFile.ts'

const MOST_TABLE_MB = 20
const ownerOf = (response: Response): string => askerOf(response).account?.id ?? ''

/** Files of other programs, turned into tables; of them only how their columns are read is kept. */
export const fileRoutes = (mappings: SheetMappings, files: ForeignFiles, room: MemoryRoom): Router => {
  const router = Router()
  const table = express.raw({ limit: `${MOST_TABLE_MB}mb`, type: () => true })
  router.post('/tables', roomForFile(room, files, MOST_TABLE_MB), table, async (request, response) => {
    response.json(await files.workbook(Buffer.isBuffer(request.body) ? request.body : new Uint8Array()))
  })
  router.get('/sheet-mappings', async (_request, response) => {
    response.json(await mappings.latest(ownerOf(response)))
  })
  router.put('/sheet-mappings', express.json({ limit: '60kb' }), async (request, response) => {
    await mappings.keep(ownerOf(response), sheetMappingSchema.parse(request.body))
    response.status(204).end()
  })
  return router
}
