import { defineConfig } from 'vite'

/** What tests try without the pages: one script that leaves everything under one name. */
export default defineConfig({
  define: { 'process.env.NODE_ENV': '"production"' },
  build: {
    outDir: 'target/logic',
    lib: { entry: 'src/logic.ts', name: 'logic', formats: ['iife'], fileName: () => 'logic.js' }
  }
})
