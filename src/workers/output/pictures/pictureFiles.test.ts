import { describe, expect, it } from 'vitest';
import { folderOfPictures } from '@/workers/output/pictures/pictureFiles';

/* A folder of files in memory, as far as it is asked for, with files that can't be looked at. */
class Folder {
  readonly files = new Map<string, Uint8Array>();
  readonly folders = new Map<string, Folder>();
  readonly locked = new Set<string>();
  constructor(readonly name: string) {}

  async *keys(): AsyncGenerator<string> {
    yield* [...this.files.keys(), ...this.folders.keys()];
  }
  getDirectoryHandle = async (name: string, { create = false } = {}): Promise<Folder> => {
    const folder = this.folders.get(name) ?? (create ? new Folder(name) : null);
    if (!folder) throw new DOMException('none', 'NotFoundError');
    this.folders.set(name, folder);
    return folder;
  };
  getFileHandle = async (name: string, { create = false } = {}) => {
    if (this.locked.has(name)) throw new DOMException('locked', 'NotAllowedError');
    if (!this.files.has(name) && !create) throw new DOMException('none', 'NotFoundError');
    if (!this.files.has(name)) this.files.set(name, new Uint8Array(0));
    return {
      getFile: async () => new Blob([this.files.get(name) as Uint8Array<ArrayBuffer>]),
      createWritable: async () => ({
        write: async (bytes: Uint8Array) => void this.files.set(name, bytes.slice()),
        close: async () => undefined,
      }),
    };
  };
  removeEntry = async (name: string): Promise<void> => {
    if ((this.folders.get(name)?.files.size ?? 0) > 0) throw new DOMException('full', 'InvalidModificationError');
    if (!this.files.delete(name) && !this.folders.delete(name)) throw new DOMException('none', 'NotFoundError');
  };
}

const NAMES = ['a/1.png', 'a/2.png', 'a/3.png'];
const picture = (value: number) => Uint8Array.of(value, value, value);
const opened = (root: Folder, wasBegun: boolean) => folderOfPictures(root as unknown as FileSystemDirectoryHandle, NAMES, wasBegun);
const inside = (root: Folder) => Object.fromEntries([...(root.folders.get('a')?.files ?? [])].map(([name, bytes]) => [name, [...bytes]]));

async function holding(files: Readonly<Record<string, readonly number[]>>): Promise<Folder> {
  const root = new Folder('Out');
  const within = await root.getDirectoryHandle('a', { create: true });
  for (const [name, bytes] of Object.entries(files)) within.files.set(name, Uint8Array.from(bytes));
  return root;
}

describe('a folder that is written into', () => {
  it('is left as it is where one of the names is there already', async () => {
    const root = await holding({ '2.png': [9] });
    await expect(opened(root, false)).rejects.toThrow(/holds 2\.png already\. Nothing was written/);
    expect(inside(root)).toEqual({ '2.png': [9] });
  });

  it('goes on where a page that was left had begun: what is whole stays, what was begun and is empty is written', async () => {
    const root = await holding({ '1.png': [1, 1, 1], '2.png': [] });
    const files = await opened(root, true);
    for (const [index, name] of NAMES.entries()) await files.add(name, picture(index + 1));
    const written = await files.finish();
    expect(inside(root)).toEqual({ '1.png': [1, 1, 1], '2.png': [2, 2, 2], '3.png': [3, 3, 3] });
    expect(written).toMatchObject({ fileBytes: 9, source: { names: NAMES } });
  });

  it('never writes over another file, and takes away only what it wrote itself', async () => {
    const root = await holding({ '1.png': [1, 1, 1], '3.png': [7, 7, 7] });
    const files = await opened(root, true);
    await files.add(NAMES[0] as string, picture(1));
    await files.add(NAMES[1] as string, picture(2));
    await expect(files.add(NAMES[2] as string, picture(3))).rejects.toThrow(/holds another a\/3\.png already\. It was left as it is/);
    await files.discard();
    expect(inside(root)).toEqual({ '1.png': [1, 1, 1], '3.png': [7, 7, 7] });
  });

  it('does not take a file that can’t be looked at for none', async () => {
    const root = await holding({ '1.png': [8, 8, 8] });
    root.folders.get('a')?.locked.add('1.png');
    const files = await opened(root, true);
    await expect(files.add(NAMES[0] as string, picture(1))).rejects.toThrow('locked');
    await files.discard();
    expect(inside(root)).toEqual({ '1.png': [8, 8, 8] });
  });

  it('that was made for the files goes with them', async () => {
    const root = new Folder('Out');
    const files = await opened(root, false);
    await files.add(NAMES[0] as string, picture(1));
    await files.discard();
    expect(root.folders.size).toBe(0);
  });
});
