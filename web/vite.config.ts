import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
  base: '/static/',
  plugins: [vue()],
  build: { assetsInlineLimit: 0, chunkSizeWarningLimit: 1500 },
})
