/** Hands a file to the browser to be saved. */
export function download(name: string, content: Blob | string, type = 'application/octet-stream'): void {
  const url = URL.createObjectURL(content instanceof Blob ? content : new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
