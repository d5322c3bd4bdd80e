import express, { Router } from 'express'
import { sheetMappingSchema } from '@geodrome/core'
import type { SheetMappings } from '../db/sheetMappings.ts'
import type { ForeignFiles } from '../files/foreignFiles.ts'

/** Files of other programs, turned into tables; of them only how their columns are read is kept. */
export const fileRoutes = (mappings: SheetMappings, files: ForeignFiles): Router => {
  const router = Router()
  router.post('/tables', express.raw({ limit: '20mb', type: () => true }), async (request, response) => {
    response.json(await files.workbook(Buffer.isBuffer(request.body) ? request.body : new Uint8Array()))
  })
  router.get('/sheet-mappings', async (_request, response) => void response.json(await mappings.latest()))
  router.put('/sheet-mappings', express.json({ limit: '60kb' }), async (request, response) => {
    await mappings.keep(sheetMappingSchema.parse(request.body))
    response.status(204).end()
  })
  return router
}
