/** The sheet with a reading that waits shown in the place of the one there is, what would change tinted. */
import { applyPatch, isRefusal, SCENE_KIND, takeOffered } from '@zest-jaw/core';
import { useMemo, useState } from 'react';
import { sheetGatherer } from '../barSheet/sheetData.js';
import { useSceneDocument, useSheet, useSpeaker, type Sheet } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import type { Offer } from './OfferRoom.js';

export function useOfferedSheet(offer: Offer | undefined): Sheet {
  const sheet = useSheet();
  const document = useSceneDocument();
  const { track, charts } = useSpeaker();
  const [gather] = useState(sheetGatherer);
  return useMemo(() => {
    if (!offer || offer.clip.characterId !== track.characterId) return sheet;
    const { view, offered, clip } = offer;
    const patch = takeOffered(document, clip.id, view.reading, undefined, newId);
    if (isRefusal(patch)) return sheet;
    const after = applyPatch(SCENE_KIND, document, patch);
    const startsOf = (list: readonly { from: number }[], fresh: ReadonlySet<number>): Set<number> =>
      new Set(list.flatMap(({ from }, index) => (fresh.has(index) ? [from] : [])));
    const idsOf = (records: typeof after.words | typeof after.phonemes, starts: ReadonlySet<number>): Set<string> =>
      new Set(records.flatMap((record) => (record.clip === clip.id && starts.has(record.fromSample) ? [record.id] : [])));
    const newWords = idsOf(after.words, startsOf(offered.reading.words, offered.newWords));
    const newSounds = idsOf(after.phonemes, startsOf(offered.reading.phonemes, offered.newSounds));
    const { words, sounds, notSpeech } = gather(after, track.id, charts, sheet.data.waves);
    const tinted = <T extends { readonly id: string }>(items: readonly T[], fresh: ReadonlySet<string>): T[] =>
      items.map((item) => (fresh.has(item.id) ? { ...item, isProposed: true } : item));
    return { ...sheet, data: { ...sheet.data, words: tinted(words, newWords), sounds: tinted(sounds, newSounds), notSpeech } };
  }, [offer, sheet, document, track, charts, gather]);
}
