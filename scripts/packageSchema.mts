// Writes docs/package.schema.json from the definitions that read packages: `npm run package-schema`. A test holds the two against each other.
import { writeFileSync } from 'node:fs';
import { packageJsonSchema } from '../src/contracts/package';

writeFileSync('docs/package.schema.json', `${JSON.stringify(packageJsonSchema(), null, 2)}\n`);
