import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  // A line break between two words of a template is a space, as it is in HTML: formatting never changes what is read.
  plugins: [vue({ template: { compilerOptions: { whitespace: 'preserve' } } })],
  worker: { format: 'es' },
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { proxy: { '/api': 'http://127.0.0.1:4700' } },
})
