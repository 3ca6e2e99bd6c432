// Writes the JSON Schemas in docs from the definitions that read packages, counts and receipts: `npm run schemas`. Tests hold them against each other.
import { writeFileSync } from 'node:fs';
import { countJsonSchema } from '../src/contracts/count';
import { packageJsonSchema } from '../src/contracts/package';
import { receiptJsonSchema } from '../src/contracts/receipt';

for (const [name, schema] of [
  ['package', packageJsonSchema()],
  ['count', countJsonSchema()],
  ['receipt', receiptJsonSchema()],
] as const)
  writeFileSync(`docs/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`);
