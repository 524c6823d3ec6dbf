import { defineConfig } from '@lingui/conf';
import { formatter } from '@lingui/format-po';

/** The page's texts: English stands in the sources, every other language in a catalogue. */
export default defineConfig({
  sourceLocale: 'en',
  locales: ['de'],
  catalogs: [{ path: 'src/locales/{locale}', include: ['src'], exclude: ['**/gen/**', '**/check/**'] }],
  format: formatter({ origins: false, lineNumbers: false, printPlaceholdersInComments: false }),
  orderBy: 'message',
});
