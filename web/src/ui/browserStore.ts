/** What a browser keeps of small choices. It may keep nothing (a private window, a full disk): then they last as long as the page. */

export function maybeKept(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // Not kept; it holds for this page.
  }
}
