/** Names of files that every file system takes. */

/** Letters, digits, spaces, - and _; never empty, never a device's name. */
export function safeName(text: string): string {
  const plain = text
    .normalize('NFC')
    .replace(/[^\p{L}\p{N} _-]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, 60)
    .trim();
  return plain === '' || /^(con|prn|aux|nul|com\d|lpt\d)$/i.test(plain) ? `_${plain}` : plain;
}

/** Each name once: the second of two that are the same, whatever their case, is numbered. */
export function distinctNames(): (name: string, ending: string) => string {
  const taken = new Set<string>();
  return (name, ending) => {
    let made = `${name}${ending}`;
    for (let number = 2; taken.has(made.toLowerCase()); number++) made = `${name} ${number}${ending}`;
    taken.add(made.toLowerCase());
    return made;
  };
}
