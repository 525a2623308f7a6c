import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'
import { licences } from './licences.js'

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), licences()],
  build: { target: 'es2022', chunkSizeWarningLimit: 600, modulePreload: { polyfill: false } },
  server: { proxy: { '/api': 'http://127.0.0.1:8737' } },
})
