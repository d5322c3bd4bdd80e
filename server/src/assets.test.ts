import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { get, type IncomingHttpHeaders } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, brotliDecompressSync, gunzipSync } from 'node:zlib'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { testServer, type TestServer } from './testing/testServer.ts'

const CODE = 'export const answer = 42 // ' + 'and so on '.repeat(500)
const BUILT = brotliCompressSync(CODE)
let server: TestServer
let root: string
beforeAll(async () => {
  root = mkdtempSync(join(tmpdir(), 'geodrome-web-'))
  mkdirSync(join(root, 'assets'))
  writeFileSync(join(root, 'index.html'), '<title>Geodrome</title>')
  writeFileSync(join(root, 'assets/code-1.js'), CODE)
  writeFileSync(join(root, 'assets/code-1.js.br'), BUILT)
  server = await testServer(null, { webRoot: root })
})
afterAll(async () => {
  await server.stop()
  rmSync(root, { recursive: true, force: true })
})

const asked = (
  path: string,
  accepts: string,
): Promise<{ status: number; headers: IncomingHttpHeaders; body: Buffer }> =>
  new Promise((resolve, reject) => {
    get(`${server.address}${path}`, { headers: { 'accept-encoding': accepts } }, (response) => {
      const parts: Buffer[] = []
      response.on('data', (part: Buffer) => parts.push(part))
      response.on('end', () =>
        resolve({ status: response.statusCode!, headers: response.headers, body: Buffer.concat(parts) }),
      )
    }).on('error', reject)
  })

it('an asset comes as it was compressed when built, to who takes that; to others as before', async () => {
  const built = await asked('/assets/code-1.js', 'gzip, deflate, br')
  expect(built.headers['content-encoding']).toBe('br')
  expect(built.headers['content-type']).toMatch(/^text\/javascript/)
  expect(built.headers['cache-control']).toContain('immutable')
  expect(built.body.equals(BUILT)).toBe(true)
  expect(brotliDecompressSync(built.body).toString()).toBe(CODE)

  const zipped = await asked('/assets/code-1.js', 'gzip')
  expect(zipped.headers['content-encoding']).toBe('gzip')
  expect(gunzipSync(zipped.body).toString()).toBe(CODE)

  const plain = await asked('/assets/code-1.js', 'identity')
  expect(plain.headers['content-encoding']).toBeUndefined()
  expect(plain.body.toString()).toBe(CODE)
})

it('what is not among the assets is not found, and every other path is the page', async () => {
  expect((await asked('/assets/code-0.js', 'br')).status).toBe(404)
  expect((await asked('/assets/%E0%A4%A', 'br')).status).toBe(400)
  const page = await asked('/plan/any/network', 'identity')
  expect(page.status).toBe(200)
  expect(page.body.toString()).toContain('<title>Geodrome</title>')
})
