/** A text given to the browser to be saved as a file. */
export function saveText(name: string, text: string): void {
  const type = /\.(json|otio)$/.test(name) ? 'application/json' : name.endsWith('.csv') ? 'text/csv' : 'text/plain;charset=utf-8';
  const url = URL.createObjectURL(new Blob([text], { type }));
  saveUrl(url, name);
  // The browser reads the blob after the click has returned.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** What lies at an address, saved as a file. */
export function saveUrl(url: string, name: string): void {
  Object.assign(document.createElement('a'), { href: url, download: name }).click();
}
