/** Layers inside layers: which are the mouths. */
import { drawingsAmong, levelsOf, maybeLayerChoice, stackOfOpenRaster, svgParts, type Layer } from '../index.js';

const leaf = (name: string): Layer<string> => ({ name, item: name, children: [], isFolder: false });
const folder = (name: string, ...children: Layer<string>[]): Layer<string> => ({ name, item: name, children, isFolder: true });
const names = (layers: readonly Layer<string>[], level?: number): string[] => drawingsAmong(layers, level).map(({ name }) => name);

it('opens folders of drawings, and leaves a drawing in parts whole', () => {
  const layers = [
    folder('front', folder('ee', leaf('lips'), leaf('teeth')), folder('oo', leaf('lips'), leaf('tongue')), leaf('closed')),
    folder('side', leaf('ee'), leaf('ah')),
  ];
  expect(names(layers)).toEqual(['front ee', 'oo', 'closed', 'side ee', 'ah']);
  expect(names(layers, 0)).toEqual(['front', 'side']);
  expect(levelsOf(layers).map(({ count }) => count)).toEqual([2, 5, 7]);
});

it('shows the tree, and which of its lines are taken', () => {
  const layers = [folder('front', folder('ee', leaf('lips')), leaf('oo')), leaf('closed')];
  const lines = (level?: number): string[] =>
    maybeLayerChoice(layers, level)!.outline.map(({ name, depth, isDrawing }) => `${'  '.repeat(depth)}${name}${isDrawing ? ' ✓' : ''}`);
  expect(lines()).toEqual(['front', '  ee ✓', '    lips', '  oo ✓', 'closed ✓']);
  expect(lines(0)).toEqual(['front ✓', '  ee', '  oo', 'closed ✓']);
  expect(maybeLayerChoice([leaf('a'), leaf('b')])).toBeUndefined();
});

it('in an OpenRaster file, stacks inside stacks are opened by their names, and the level may be chosen', () => {
  const layer = (name: string): string => `<layer name="${name}" src="data/${name}.png"/>`;
  const xml = `<image w="9" h="9"><stack><stack name="front"><stack name="ee">${layer('lips')}${layer('teeth')}</stack>${layer('oo')}</stack>${layer('closed')}</stack></image>`;
  const mouths = (depth?: number): readonly [string, number][] => {
    const stack = stackOfOpenRaster(xml, 'mouths.ora', depth);
    if ('refusal' in stack) throw new Error(stack.refusal);
    return stack.mouths.map(({ name, layers }) => [name, layers.length]);
  };
  expect(mouths()).toEqual([['ee', 2], ['oo', 1], ['closed', 1]]); // prettier-ignore
  expect(mouths(0)).toEqual([['front', 3], ['closed', 1]]); // prettier-ignore
});

it('opens nothing whose names say nothing', () => {
  expect(names([folder('happy', leaf('Layer 1'), leaf('Layer 2')), leaf('sad')])).toEqual(['happy', 'sad']);
  expect(names([folder('happy', leaf('outline'), leaf('colour'))])).toEqual(['happy']);
  expect(levelsOf([leaf('a'), leaf('b')])).toHaveLength(1);
});

it('in an SVG, hidden layers are drawings too, and the level may be chosen', () => {
  const mouth = (id: string, hidden = ''): string => `<g id="${id}" ${hidden}><rect width="9" height="9"/></g>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><g id="front">${mouth('ee')}${mouth('oo', 'style="display:none"')}</g><g id="side" display="none">${mouth('ah')}${mouth('mm')}</g></svg>`;
  const read = svgParts(svg, 'face.svg');
  if ('refusal' in read) throw new Error(read.refusal);
  expect(read.parts.map((part) => part.name)).toEqual(['ee', 'oo', 'ah', 'mm']);
  expect(read.choice!.levels.map(({ count }) => count)).toEqual([2, 4]);
  for (const part of read.parts) expect(part.svg(read.canvas)).not.toMatch(/none/);
  const outer = svgParts(svg, 'face.svg', false, 0);
  expect('refusal' in outer ? [] : outer.parts.map((part) => part.name)).toEqual(['front', 'side']);
});
