/** What the tests use of it. */
declare module 'webvtt-parser' {
  export class WebVTTParser {
    parse(
      text: string,
      mode: 'metadata',
    ): { readonly cues: readonly { readonly startTime: number; readonly endTime: number }[]; readonly errors: readonly unknown[] };
  }
}
