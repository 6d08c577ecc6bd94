/** Hand a text to the browser as a file, named after what it is of. */
export function download(text: string, type: string, name: string, ending: string): void {
  downloadBlob(new Blob([text], { type }), `${name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}.${ending}`);
}

export function downloadBlob(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  URL.revokeObjectURL(url);
}
