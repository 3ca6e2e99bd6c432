// Writes docs/count.schema.json from the definitions counts are read by: `npm run count-schema`. A test holds the two against each other.
import { writeFileSync } from 'node:fs';
import { countJsonSchema } from '../src/contracts/count';

writeFileSync('docs/count.schema.json', `${JSON.stringify(countJsonSchema(), null, 2)}\n`);
