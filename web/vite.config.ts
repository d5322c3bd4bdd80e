import vue from '@vitejs/plugin-vue'
import { constants } from 'node:zlib'
import { defineConfig } from 'vite'
import { compression, defineAlgorithm } from 'vite-plugin-compression2'
import { htmlSpaces } from './templateSpaces.ts'

/** The best, 11, takes fifteen times as long and leaves a tenth less. */
const BROTLI_QUALITY = 9

export default defineConfig({
  plugins: [
    vue({ template: { compilerOptions: { whitespace: 'preserve', nodeTransforms: [htmlSpaces] } } }),
    // Once here rather than at each request: a page asks for a megabyte of it.
    compression({
      algorithms: [
        defineAlgorithm('brotliCompress', { params: { [constants.BROTLI_PARAM_QUALITY]: BROTLI_QUALITY } }),
      ],
      include: /\.(js|css|wasm|html|svg)$/,
    }),
  ],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': 'http://127.0.0.1:4700' } },
})
