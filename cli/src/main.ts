/**
 * `zest`: read, key and export on files. Exit status 0, 1 (could not do it) or 2 (wrong
 * use); what was asked for on standard output, messages on standard error.
 */
import { exportCommand } from './exportCommand.js';
import { keyCommand } from './keyCommand.js';
import { CannotDo, WrongUse } from './outcome.js';
import { readCommand } from './readCommand.js';

const USAGE = `zest read AUDIO [--script TEXT | --script-file FILE] [--language en|fr|ipa]
                [--accent us|gb[,non-rhotic,dropped-h,flapped-t,th-fronting]] [--pronunciations FILE]
zest read AUDIO --labels FILE.TextGrid|vtt|srt|ctm|tsv
zest read --batch LIST.jsonl [the same options but the script]
zest key READING.json [--feel crisp|natural|limited|replacement|FILE.json] [--fps 24] [--hold 2] [--lead 1] [--strict]
                      [--feel FROM-TO=FEEL …] [--chart CHART.json] [--loudness AUDIO] [--explain]
zest export KEYED.json [--pictures DIR] [--sheet FILE.csv] [--chart CHART.json]
            [--name mouth] [--first-number 1] [--width 1920] [--height 1080]
zest export READING.json --labels FILE.TextGrid|vtt|srt|ctm|tsv

The formats are described in docs/formats.md.
`;

const COMMANDS: Readonly<Record<string, (args: string[]) => Promise<void>>> = { read: readCommand, key: keyCommand, export: exportCommand };

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
        name === undefined ? 'Say what to do: read, key or export.' : `There is no command “${name}”: use read, key or export.`,
      );
    await command(rest);
    return 0;
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
