/** Choosing a folder (File System Access), which only some browsers have and the type library leaves out. */
interface Window {
  showDirectoryPicker(options?: { mode?: 'read' | 'readwrite' }): Promise<FileSystemDirectoryHandle>;
}
