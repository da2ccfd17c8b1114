/**
 * Everything that sounds together and ends together. It begins and ends with a short fade,
 * however early it is ended: a wave that is cut off clicks.
 */

/** Fade at both ends, in seconds: long enough not to click, short enough not to be heard as one. */
export const FADE = 0.005;

export interface Voice {
  /** What sources are connected to. */
  readonly into: AudioNode;
  /** Adds a source, to be let go with the voice. */
  add(source: AudioScheduledSourceNode): void;
  /** Fades out from a time of the device's clock on, at once without one, and is gone. May be asked for again, earlier. */
  end(at?: number): void;
  /** Nothing of it sounds any more, or will. */
  isGone(): boolean;
}

/** @param fadesInAt when it begins, in seconds of the device's clock; null for what fades in by itself, whenever it comes to begin */
export function openVoice(out: AudioNode, fadesInAt: number | null): Voice {
  const { context } = out;
  // One node for each fade: an envelope that is under way need not be known to be ended.
  const [rise, fall] = [context.createGain(), context.createGain()];
  rise.connect(fall);
  fall.connect(out);
  if (fadesInAt !== null) {
    // From the beginning: a source may begin a sample before the fade does.
    rise.gain.value = 0;
    rise.gain.setValueAtTime(0, fadesInAt);
    rise.gain.linearRampToValueAtTime(1, fadesInAt + FADE);
  }
  const sources = new Set<AudioScheduledSourceNode>();
  let endsAt = Number.POSITIVE_INFINITY;
  return {
    into: rise,
    add: (source) => {
      sources.add(source);
      source.onended = () => {
        source.disconnect();
        sources.delete(source);
        if (sources.size === 0 && endsAt <= context.currentTime) fall.disconnect();
      };
    },
    end: (at = context.currentTime) => {
      const from = Math.max(at, context.currentTime);
      if (from >= endsAt) return;
      endsAt = from;
      fall.gain.cancelScheduledValues(0);
      fall.gain.setValueAtTime(1, from);
      fall.gain.linearRampToValueAtTime(0, from + FADE);
      for (const source of sources) source.stop(from + FADE);
      if (sources.size === 0) fall.disconnect();
    },
    isGone: () => endsAt + FADE < context.currentTime,
  };
}
