import { transformAsync } from '@babel/core';
import { lingui } from '@lingui/vite-plugin';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

// Texts become look-ups in the catalogue; what is English stays in the sources.
const texts = ['@lingui/babel-plugin-lingui-macro', { stripMessageField: false }];

/** React's compiler: a part of the page is drawn anew only when what it shows has changed. */
const compiler = (): Plugin => ({
  name: 'react-compiler',
  enforce: 'pre',
  transform: {
    filter: { id: /\/src\/.*\.tsx?$/ },
    handler: (code, filename) =>
      transformAsync(code, { filename, babelrc: false, configFile: false, plugins: [texts, 'babel-plugin-react-compiler'], parserOpts: { plugins: ['typescript', 'jsx'] } }).then(
        (out) => ({ code: out!.code!, map: null }),
      ),
  },
});

// The built page carries a mark where the server puts each answer's nonce.
export default defineConfig({
  base: './', // below whatever path a proxy has it under: the server writes that into the page
  plugins: [compiler(), react(), lingui()],
  html: { cspNonce: '__NONCE__' },
  build: {
    outDir: 'dist',
    target: 'es2022',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rollupOptions: {
      checks: { pluginTimings: false }, // the compiler takes its time
      // What checks a sheet without the server has addresses that stay.
      input: { main: 'index.html', check: 'src/check/check.ts', sw: 'src/check/sw.ts' },
      output: { entryFileNames: (c) => (c.name === 'main' ? 'assets/[name]-[hash].js' : 'v/[name].js') },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8460' } },
});
