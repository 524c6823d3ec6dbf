import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import lingui from 'eslint-plugin-lingui';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['dist', 'src/gen', 'node_modules'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  hooks.configs.flat.recommended,
  { languageOptions: { globals: globals.browser } },
  {
    // What people read goes through the catalogue: text in the markup, and sentences in the sources.
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/check/**', 'src/theme/**'],
    plugins: { lingui },
    rules: {
      'lingui/no-unlocalized-strings': [
        'error',
        {
          ignore: [
            '^said doubt$',
            '^[^a-z]*$', // figures and signs
            '^[^ ]*[a-z0-9_:/.#=&?<>\\[\\]-]$', // names of programs
            '^[\\d.]* ?(mm|in|N|N/mm²)$',
            '– Nexufix$',
            '^(ISO|OSB|recess Ø|top|bottom|ZIP|NFKD|Nexufix|Ctrl\\+S)$',
            '\\{(bolt|id|kind|key)\\}',
            '(px|sans-serif|auto 1fr)( |$)|var\\(|@page|!important',
            '^M\\d', // ways of a pen
          ],
          ignoreNames: ['className', 'sx', 'style', 'key', 'type', 'id', 'role', 'href', 'to', 'name', 'font', 'fieldSizing', 'padding', 'path'],
          ignoreFunctions: ['*.querySelector', '*.closest', 'matchMedia', 'styled', 'Error', 'fetch'],
        },
      ],
    },
  },
);
