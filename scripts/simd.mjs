// `npm run simd`: compiles what is written for many numbers at once into code that ships as text.
import { writeFile } from 'node:fs/promises';
import asc from 'assemblyscript/asc';

/** What is compiled, where it ships, and under which name. */
export const PARTS = [
  { source: 'src/simd/blur.ts', target: 'src/core/finish/blurCode.ts', name: 'BLUR_CODE' },
  { source: 'src/simd/planes.ts', target: 'src/core/raster/planesCode.ts', name: 'PLANES_CODE' },
  { source: 'src/simd/pixels.ts', target: 'src/core/raster/pixelsCode.ts', name: 'PIXELS_CODE' },
  { source: 'src/simd/distances.ts', target: 'src/core/raster/distancesCode.ts', name: 'DISTANCES_CODE' },
  { source: 'src/simd/palettes.ts', target: 'src/core/raster/palettesCode.ts', name: 'PALETTES_CODE' },
  { source: 'src/simd/looks.ts', target: 'src/core/outside/looksCode.ts', name: 'LOOKS_CODE' },
  { source: 'src/simd/measures.ts', target: 'src/core/analysis/measuresCode.ts', name: 'MEASURES_CODE' },
];

/** The compiled code as base64. */
async function compiled(source) {
  let code = '';
  const { error, stderr } = await asc.main(
    [source, '--outFile', 'code.wasm', '-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory'],
    {
      writeFile: (name, contents) => {
        if (name === 'code.wasm') code = Buffer.from(contents).toString('base64');
      },
    },
  );
  if (error) throw new Error(`${source} does not compile: ${stderr.toString()}`);
  return code;
}

/** The file that ships. */
export const codeFile = async ({ source, name }) =>
  `/** \`${source}\` compiled, as base64; made by \`npm run simd\`. */\nexport const ${name} =\n  '${await compiled(source)}';\n`;

if (process.argv[1]?.endsWith('simd.mjs')) for (const part of PARTS) await writeFile(part.target, await codeFile(part));
