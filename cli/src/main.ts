/**
 * `zest`: read, key, check and export on files. Exit status 0, 1 (could not do it), 2 (wrong
 * use) or 3 (checked, and something of weight was found); what was asked for on standard output, messages on standard error.
 */
import { CannotDo, WrongUse } from './outcome.js';

const USAGE = `zest read AUDIO [--script TEXT | --script-file FILE] [--language en|fr|ipa]
                [--accent us|gb[,non-rhotic,dropped-h,flapped-t,th-fronting]] [--pronunciations FILE]
zest read AUDIO --labels FILE.TextGrid|vtt|srt|ctm|tsv|json
zest read --batch LIST.jsonl [the same options but the script]
zest key READING.json [--feel crisp|natural|limited|replacement|FILE.json] [--fps 24] [--hold 2] [--lead 1] [--strict]
                      [--feel FROM-TO=FEEL …] [--chart CHART.json] [--loudness AUDIO] [--explain]
zest export KEYED.json [--pictures DIR] [--sprites DIR] [--sheet FILE.csv|.pdf] [--keys FILE.csv|.json]
            [--weights FILE.csv|.json] [--curves FILE.csv|.json] [--timeline FILE.otio] [--shots FILE.csv] [--bundle FILE.zip]
            [--chart CHART.json|BUNDLE.zip] [--name mouth] [--first-number 1] [--digits 4] [--width 1920] [--height 1080]
            [--which every|changes|chart] [--picture-format png|webp] [--ground #rrggbb] [--cut] [--cell 256] [--powers-of-two] [--paper A4|Letter] [--numbers own|'from 0'|'from 1'] [--every-frame]
            [--guards] [--ease 1] [--camera-on 1|2] [--count-from 0|1|scene] [--count-in frames|seconds|timecode] [--non-drop]
zest export BUNDLE.zip [--scene TITLE] [--speaker NAME] [the same options but --chart]
zest export READING.json --labels FILE.TextGrid|vtt|srt|ctm|tsv|json
zest check KEYED.json [--chart CHART.json] [--mend [FILE.json]]
zest import FILE.zip [--chart-to CHART.json]
zest import FILE.csv [--chart CHART.json] [--fps 24] [--length FRAMES]
zest map propose CHART.json
zest map check MAP.json

The formats are described in docs/formats.md.
`;

/** What it ends with, where that is not 0. */
type Command = (args: string[]) => Promise<unknown>;

/** Each loads only what it needs: the recogniser alone takes a second. */
const COMMANDS: Readonly<Record<string, () => Promise<Command>>> = {
  read: async () => (await import('./readCommand.js')).readCommand,
  key: async () => (await import('./keyCommand.js')).keyCommand,
  check: async () => (await import('./checkCommand.js')).checkCommand,
  export: async () => (await import('./exportCommand.js')).exportCommand,
  import: async () => (await import('./importCommand.js')).importCommand,
  map: async () => (await import('./mapCommand.js')).mapCommand,
};

/** Runs one command line; returns the exit status. */
export async function main(args: string[]): Promise<number> {
  const [name, ...rest] = args;
  if (name === '--help' || name === 'help') {
    process.stdout.write(USAGE);
    return 0;
  }
  const command = name === undefined ? undefined : COMMANDS[name];
  try {
    if (!command)
      throw new WrongUse(
        name === undefined
          ? 'Say what to do: read, key, check, export, import or map.'
          : `There is no command “${name}”: use read, key, check, export, import or map.`,
      );
    const run = await command();
    const status = await run(rest);
    return typeof status === 'number' ? status : 0;
  } catch (error) {
    if (error instanceof WrongUse) {
      process.stderr.write(`zest: ${error.message}\n\n${USAGE}`);
      return 2;
    }
    if (error instanceof CannotDo) {
      process.stderr.write(`zest: ${error.message}\n`);
      return 1;
    }
    process.stderr.write(`zest: something went wrong inside: ${error instanceof Error ? error.message.slice(0, 300) : 'unknown'}\n`);
    return 1;
  }
}
