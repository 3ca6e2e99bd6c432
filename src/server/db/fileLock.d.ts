/** Advisory file locks of the operating system, held as long as the file is open; the package ships no types. */
declare module 'fs-native-extensions' {
  /** Takes the lock of an open file for this opening alone; false when another opening holds it, of this process or any other. */
  export function tryLock(fd: number): boolean;
  export function unlock(fd: number): void;
}
