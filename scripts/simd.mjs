// `npm run simd`: compiles what is written for many numbers at once into code that ships as text.
import { writeFile } from 'node:fs/promises';
import asc from 'assemblyscript/asc';

const SOURCE = 'src/simd/blur.ts';
const TARGET = 'src/core/finish/blurCode.ts';

/** The compiled code as base64. */
export async function compiled() {
  let code = '';
  const { error, stderr } = await asc.main(
    [SOURCE, '--outFile', 'blur.wasm', '-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory'],
    {
      writeFile: (name, contents) => {
        if (name === 'blur.wasm') code = Buffer.from(contents).toString('base64');
      },
    },
  );
  if (error) throw new Error(`${SOURCE} does not compile: ${stderr.toString()}`);
  return code;
}

/** The file that ships. */
export const codeFile = (code) =>
  `/** \`${SOURCE}\` compiled, as base64; made by \`npm run simd\`. */\nexport const BLUR_CODE =\n  '${code}';\n`;

if (process.argv[1]?.endsWith('simd.mjs')) await writeFile(TARGET, codeFile(await compiled()));
