import { defineConfig } from 'vite'
import vue from '@vitejs/plugin-vue'

export default defineConfig({
  plugins: [vue()],
  build: { target: 'es2022', chunkSizeWarningLimit: 1200, assetsInlineLimit: 0 },
  server: { proxy: { '/api': 'http://127.0.0.1:7420', '/media': 'http://127.0.0.1:7420', '/type': 'http://127.0.0.1:7420' } },
})
