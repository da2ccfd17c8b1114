/** The layout of the exposure sheet. */
import { columnNamed, hitUpright, planUpright } from './uprightPlan.js';

const size = { width: 900, room: 470, name: 'Bramble', others: ['Odette'] };

it('has a row a frame, more than twenty-four of them in sight, and its columns beside one another', () => {
  const plan = planUpright(500, size);
  expect(size.room / plan.rowHeight).toBeGreaterThan(24);
  expect(plan.height).toBe(500 * plan.rowHeight);
  expect(plan.columns.map(({ title }) => title)).toEqual(['frame', 'wave', 'words', 'sounds', 'Bramble', 'Odette']);
  plan.columns.slice(1).forEach((column, index) => {
    const before = plan.columns[index]!;
    expect(column.x).toBeGreaterThanOrEqual(before.x + before.width);
  });
  expect(plan.width).toBeLessThanOrEqual(size.width);
});

it('is painted in blocks that follow one another to the last frame', () => {
  const { blocks } = planUpright(100, size);
  expect(blocks.map(({ from, to }) => [from, to])).toEqual([
    [0, 48],
    [48, 96],
    [96, 100],
  ]);
});

it('answers with the frame and the lane under a point', () => {
  const plan = planUpright(500, size);
  const mouth = columnNamed(plan, 'mouth');
  const hit = hitUpright(plan, mouth.x + 4, plan.rowHeight * 10.25);
  expect(hit).toMatchObject({ frame: 10, position: 10.25, row: 'mouth', perFrame: plan.rowHeight });
  expect(hitUpright(plan, 4, plan.rowHeight * 3).row).toBeUndefined();
  expect(hitUpright(plan, mouth.x, plan.rowHeight * 900).frame).toBe(499);
  expect(hitUpright(plan, columnNamed(plan, 'others').x + 1, 5).row).toBe('others');
});

it('goes on wider than a narrow page rather than crush its lanes', () => {
  const plan = planUpright(100, { ...size, width: 420, others: ['A', 'B', 'C'] });
  for (const { name, width } of plan.columns) if (name !== 'sounds') expect(width).toBeGreaterThanOrEqual(60);
});
