/** Hand a text to the browser as a file, named after what it is of. */
export function download(text: string, type: string, name: string, ending: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = `${name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}.${ending}`;
  link.click();
  URL.revokeObjectURL(url);
}
