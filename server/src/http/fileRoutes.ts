import express, { Router } from 'express'
import { readWorkbook } from '../files/readWorkbook.ts'

/** Files of other programs, turned into tables; nothing of them is stored. */
export const fileRoutes = (): Router => {
  const router = Router()
  router.post('/tables', express.raw({ limit: '20mb', type: () => true }), async (request, response) => {
    response.json(await readWorkbook(new Uint8Array(request.body as Buffer)))
  })
  return router
}
