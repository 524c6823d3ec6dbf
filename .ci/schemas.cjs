// Compiles the schemas of the exchange format with ajv in its strict mode, which refuses what other validators overlook.
const { createRequire } = require('node:module');
const { readdirSync, readFileSync } = require('node:fs');
const path = require('node:path');

const root = path.dirname(__dirname);
const from = createRequire(path.join(root, 'web/package.json'));
const Ajv = from('ajv/dist/2020').default;
const formats = from('ajv-formats').default;
const folder = path.join(root, 'docs/schema');
for (const name of readdirSync(folder)) {
  const ajv = formats(new Ajv({ strict: true, allErrors: true, allowUnionTypes: true }));
  ajv.compile(JSON.parse(readFileSync(path.join(folder, name), 'utf8')));
}
