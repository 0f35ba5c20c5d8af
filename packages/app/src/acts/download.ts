/** Gives the artist a file. Its name is cleared of what file systems refuse. */
export function download(name: string, data: Uint8Array | Blob | string, type: string): void {
  const url = URL.createObjectURL(new Blob([data as Uint8Array<ArrayBuffer> | Blob], { type }));
  const link = window.document.createElement('a');
  link.href = url;
  link.download = name.replace(/[\\/:*?"<>|]+/g, '_');
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
