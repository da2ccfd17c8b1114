/** What in the values of a drawing points out of its file, however it is written (CSS Syntax Level 3, 4.3.4 and 4.3.7). */
import { kindOfValue, type ValueKind } from './values.js';

it.each<[string, ValueKind]>([
  ['#fa0', 'harmless'],
  ['rgb(10 20 30 / 50%)', 'harmless'],
  ['url(#shade)', 'harmless'],
  ['url("#shade") #fff', 'harmless'],
  ['translate(3 4) rotate(20)', 'harmless'],
  ['M0 0 L10 10 Z', 'harmless'],
  ['url(http://a.b/c)', 'outside'],
  ['URL( "//a.b/c" )', 'outside'],
  ['url(data:image/png;base64,AAAA)', 'outside'],
  ['\\75 rl(http://a.b/c)', 'outside'],
  ['u\\72 l("http://a.b/c")', 'outside'],
  ['u/**/rl(http://a.b/c)', 'outside'],
  ['image-set("a.png" 1x)', 'outside'],
  ['-webkit-image-set(url(a.png) 1x)', 'outside'],
  ['src("a.png")', 'outside'],
  ['calc(1px + attr(x))', 'unknown'],
  ['expression(alert(1))', 'unknown'],
  ['blue; @import "a.css"', 'outside'],
  ['<b>', 'unknown'],
])('%s is %s', (text, kind) => {
  expect(kindOfValue(text)).toBe(kind);
});
