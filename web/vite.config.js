import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'
import { licences } from './licences.js'

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), licences()],
  build: {
    target: 'es2022',
    chunkSizeWarningLimit: 1000,
    modulePreload: { polyfill: false },
    /* A page comes in a handful of files: each more costs a phone in the cellar one more turn to the server. */
    cssCodeSplit: false,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'libraries', test: /node_modules(?!.*VDatePicker)/ },
            { name: 'shared', test: /src/, minShareCount: 2 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8737' } },
})
