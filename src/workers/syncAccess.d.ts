/** Synchronous file access of dedicated workers (File System standard), which the page's type library leaves out. */
interface FileSystemSyncAccessHandle {
  write(data: Uint8Array<ArrayBuffer>, options?: { at?: number }): number;
  read(room: Uint8Array<ArrayBuffer>, options?: { at?: number }): number;
  getSize(): number;
  flush(): void;
  close(): void;
}

interface FileSystemFileHandle {
  createSyncAccessHandle(): Promise<FileSystemSyncAccessHandle>;
}
