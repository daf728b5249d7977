/** Has the browser save a file. */
export function saveAsFile(name: string, file: Blob): void {
  const url = URL.createObjectURL(file);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // Some browsers begin to read only after a while.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

export const saveJson = (name: string, text: string): void =>
  saveAsFile(name, new Blob([text], { type: 'application/json' }));
