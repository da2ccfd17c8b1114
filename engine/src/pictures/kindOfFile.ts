/** What a file is, told by its first bytes and never by its name. */

export type FileKind = 'png' | 'jpeg' | 'webp' | 'gif' | 'svg' | 'zip';

const starts = (bytes: Uint8Array, ...signature: number[]): boolean => signature.every((byte, index) => bytes[index] === byte);
const ascii = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));

/**
 * Signatures: PNG (ISO/IEC 15948, 5.2), JPEG (ITU-T T.81, B.1.1.3), WebP (RFC 9649), GIF
 * (GIF89a), ZIP (APPNOTE 4.3.7). An SVG is text whose first element is `svg`.
 */
export function maybeKindOfFile(bytes: Uint8Array): FileKind | undefined {
  if (starts(bytes, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png';
  if (starts(bytes, 0xff, 0xd8, 0xff)) return 'jpeg';
  if (ascii(bytes, 0, 4) === 'RIFF' && ascii(bytes, 8, 12) === 'WEBP') return 'webp';
  if (/^GIF8[79]a$/.test(ascii(bytes, 0, 6))) return 'gif';
  if (starts(bytes, 0x50, 0x4b, 0x03, 0x04) || starts(bytes, 0x50, 0x4b, 0x05, 0x06)) return 'zip';
  const head = Buffer.from(bytes.subarray(0, 16_384))
    .toString('utf8')
    .replace(/^\uFEFF/, '')
    .trimStart();
  // Comments, a declaration and a doctype may stand before it.
  const first = /^(?:<\?[\s\S]*?\?>\s*|<!--[\s\S]*?-->\s*|<!DOCTYPE[^>[]*(?:\[[\s\S]*?\])?\s*>\s*)*<(?:\w+:)?(\w+)/i.exec(head);
  return first?.[1]?.toLowerCase() === 'svg' ? 'svg' : undefined;
}
