import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { htmlSpaces } from './templateSpaces.ts'

export default defineConfig({
  plugins: [vue({ template: { compilerOptions: { whitespace: 'preserve', nodeTransforms: [htmlSpaces] } } })],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': 'http://127.0.0.1:4700' } },
})
