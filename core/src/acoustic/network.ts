/** What a search goes through: sounds beside their neighbours, each a few states in a row, and which may come after which at what cost. */
import { type AcousticModel, STATES, type Position } from './acousticModel.js';

/** Frames, `[from, to)`. */
export interface FramePlace {
  readonly from: number;
  readonly to: number;
}

/** Nodes by their numbers; costs in nats. */
export interface Network {
  readonly count: number;
  /** Places that take no time, numbered after the nodes: what reaches one in a frame is passed on at once, to nodes. */
  readonly hubs: number;
  /** The sound of each, by its number in the model. */
  readonly sounds: Int16Array;
  /** Shape: nodes × `STATES`, as the two after it. */
  readonly senones: Uint16Array;
  readonly stay: Float64Array;
  readonly leave: Float64Array;
  /** What may come after node or hub n: `after[afterFrom[n]]` up to `after[afterFrom[n + 1] - 1]`. */
  readonly afterFrom: Int32Array;
  readonly after: Int32Array;
  readonly costs: Float32Array;
  /** Those that the recording may begin with. */
  readonly firsts: readonly (readonly [node: number, cost: number])[];
  /** What ending with a node costs; `Infinity` where it may not. */
  readonly lastCosts: Float64Array;
  /** The frames that a node may begin in; any without it. */
  readonly places: ReadonlyMap<number, FramePlace>;
}

/** A network as it is made. */
export class NetworkMaker {
  private readonly sounds: number[] = [];
  private readonly senones: number[] = [];
  private readonly stay: number[] = [];
  private readonly leave: number[] = [];
  private readonly arcs: { readonly from: number; readonly to: number; readonly cost: number }[] = [];
  private readonly hubs: { readonly befores: readonly number[]; readonly afters: readonly (readonly [node: number, cost: number])[] }[] =
    [];
  private readonly firsts: [number, number][] = [];
  private readonly lasts = new Map<number, number>();
  private readonly places = new Map<number, FramePlace>();

  constructor(private readonly model: AcousticModel) {}

  get count(): number {
    return this.sounds.length;
  }
  /** A sound beside its neighbours. */
  add(sound: number, left: number, right: number, position: Position, place?: FramePlace): number {
    const transitions = this.model.transitionsOf(sound);
    return this.push(
      sound,
      this.model.senonesOf(sound, left, right, position),
      transitions.subarray(0, STATES),
      transitions.subarray(STATES),
      place,
    );
  }
  /** Whatever sound fits each frame best, at so much a frame. */
  addAny(cost: number): number {
    const [any, costs] = [new Array<number>(STATES).fill(this.model.senones), new Array<number>(STATES).fill(-cost)];
    return this.push(this.model.silence, any, costs, costs);
  }
  private push(sound: number, senones: Iterable<number>, stay: Iterable<number>, leave: Iterable<number>, place?: FramePlace): number {
    this.sounds.push(sound);
    this.senones.push(...senones);
    this.stay.push(...stay);
    this.leave.push(...leave);
    if (place) this.places.set(this.count - 1, place);
    return this.count - 1;
  }
  link(from: number, to: number, cost = 0): void {
    this.arcs.push({ from, to, cost });
  }
  /** Links each of some nodes to each of others, as one would by hand but through one place. */
  linkAll(befores: readonly number[], afters: readonly (readonly [node: number, cost: number])[]): void {
    this.hubs.push({ befores, afters });
  }
  begin(node: number, cost = 0): void {
    this.firsts.push([node, cost]);
  }
  end(node: number, cost = 0): void {
    this.lasts.set(node, Math.min(cost, this.lasts.get(node) ?? Infinity));
  }
  made(): Network {
    const { count } = this;
    const hubs = this.hubs.length;
    this.hubs.forEach(({ befores, afters }, index) => {
      for (const node of befores) this.link(node, count + index);
      for (const [node, cost] of afters) this.link(count + index, node, cost);
    });
    const { arcs } = this;
    const afterFrom = new Int32Array(count + hubs + 1);
    for (const { from } of arcs) afterFrom[from + 1]! += 1;
    for (let node = 0; node < count + hubs; node++) afterFrom[node + 1]! += afterFrom[node]!;
    const [after, costs, next] = [new Int32Array(arcs.length), new Float32Array(arcs.length), afterFrom.slice()];
    for (const { from, to, cost } of arcs) {
      const at = next[from]!++;
      after[at] = to;
      costs[at] = cost;
    }
    return {
      count,
      hubs,
      sounds: Int16Array.from(this.sounds),
      senones: Uint16Array.from(this.senones),
      stay: Float64Array.from(this.stay),
      leave: Float64Array.from(this.leave),
      afterFrom,
      after,
      costs,
      firsts: this.firsts,
      lastCosts: Float64Array.from({ length: count }, (_, node) => this.lasts.get(node) ?? Infinity),
      places: this.places,
    };
  }
}
