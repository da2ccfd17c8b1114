/** What every printed page of ours stands on: a document with the typeface, lines of text cut to a width, rules, and its bytes. */
import PDFDocument from 'pdfkit';
import { registerFonts, runsOf, type Weight } from './pdfFonts.js';

export type Paper = 'A4' | 'Letter';

/** Points: 1/72 inch. */
const PAPERS: Readonly<Record<Paper, readonly [number, number]>> = { A4: [595.28, 841.89], Letter: [612, 792] };

export const MARGIN = 34;
export const INK = '#1f2a44';
export const SOFT = '#6b7080';
export const RULE = '#d8d2c2';

interface TextOptions {
  readonly weight?: Weight;
  readonly colour?: string;
  /** Points; what does not fit is cut off. */
  readonly most?: number;
}

export interface Pdf {
  readonly document: PDFKit.PDFDocument;
  readonly width: number;
  readonly height: number;
  /** Writes a line of text, and answers where it ends. */
  write(text: string, x: number, y: number, size: number, options?: TextOptions): number;
  line(x1: number, y1: number, x2: number, y2: number, weight: number, colour: string): void;
  /** The bytes, once nothing more is drawn. */
  end(): Promise<Uint8Array>;
}

export function openPdf(paper: Paper, title: string, subject: string): Pdf {
  const [width, height] = PAPERS[paper];
  const document = new PDFDocument({
    size: [width, height],
    margin: 0,
    autoFirstPage: false,
    info: { Title: title, Subject: subject, Creator: 'Zest Jaw' },
  });
  const chunks: Buffer[] = [];
  document.on('data', (chunk: Buffer) => chunks.push(chunk));
  const ended = new Promise<void>((resolve, reject) => {
    document.on('end', resolve);
    document.on('error', reject);
  });
  registerFonts(document);
  return {
    document,
    width,
    height,
    write: (text, x, y, size, { weight = 'plain', colour = INK, most = Infinity } = {}) => {
      let at = x;
      document.fillColor(colour).fontSize(size);
      for (const run of runsOf(text, weight)) {
        document.font(run.font);
        let shown = run.text;
        while (shown.length > 1 && at + document.widthOfString(shown) > x + most) shown = shown.slice(0, -1);
        document.text(shown, at, y, { lineBreak: false });
        at += document.widthOfString(shown);
        if (shown !== run.text) break;
      }
      return at;
    },
    line: (x1, y1, x2, y2, weight, colour) => void document.lineWidth(weight).strokeColor(colour).moveTo(x1, y1).lineTo(x2, y2).stroke(),
    end: async () => {
      document.end();
      await ended;
      return new Uint8Array(Buffer.concat(chunks));
    },
  };
}
