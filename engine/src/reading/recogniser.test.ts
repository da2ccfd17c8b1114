/** The grammars the recogniser is given (Java Speech Grammar Format, W3C note of 5 June 2000). */
import { isPhonemeWord, looseGrammar } from './recogniser.js';

describe('a loose grammar', () => {
  const grammar = looseGrammar(['put', 'stamp']);

  it('lets every word be left out, and sounds stand before, between and after', () => {
    expect(grammar).toContain('<between> ( /0.9/ put | /0.10/ <NULL> ) <between> ( /0.9/ stamp | /0.10/ <NULL> ) <between>;');
  });

  it('has every sound of English as a word of its own', () => {
    const sounds = /<sound> = ([^;]+);/.exec(grammar)![1]!.split(' | ');
    expect(sounds).toHaveLength(39);
    expect(sounds.every(isPhonemeWord)).toBe(true);
    expect(isPhonemeWord('stamp')).toBe(false);
  });
});
