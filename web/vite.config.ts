import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

// The built page carries a mark where the server puts each answer's nonce.
export default defineConfig({
  plugins: [react()],
  html: { cspNonce: '__NONCE__' },
  build: {
    outDir: 'dist',
    target: 'es2022',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rollupOptions: {
      // What checks a sheet without the server has addresses that stay.
      input: { main: 'index.html', check: 'src/check/check.ts', sw: 'src/check/sw.ts' },
      output: { entryFileNames: (c) => (c.name === 'main' ? 'assets/[name]-[hash].js' : 'v/[name].js') },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8460' } },
});
