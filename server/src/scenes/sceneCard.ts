/** What Home shows of a scene, kept beside its document so that a list reads no document. */
import { chartIdsOfScene, exposuresOfTrack, inkedShare, sceneSettings, type SceneCard, type SceneDocument } from '@zest-jaw/core';
import { faultsOfShape } from '@zest-jaw/engine/documents';
import { Scene, type KeptCard } from '../storage/entities.js';

const DAMAGED: KeptCard = {
  frameRate: { num: 24, den: 1 },
  lengthFrames: 0,
  holdFrames: 1,
  inked: 0,
  characterId: null,
  chartId: null,
  posterDrawing: null,
};

function cardOfDocument(document: SceneDocument): KeptCard {
  const { frameRate, lengthFrames } = sceneSettings(document);
  const [track] = document.tracks;
  const exposures = track ? exposuresOfTrack(document, track.id) : [];
  const spoken = exposures.filter((exposure) => exposure.plays.length > 0);
  const poster = [...(spoken.length > 0 ? spoken : exposures)].sort((a, b) => b.to - b.from - (a.to - a.from))[0];
  return {
    frameRate,
    lengthFrames,
    holdFrames: track?.rules.holdFrames ?? 1,
    inked: inkedShare(exposures, lengthFrames),
    characterId: track?.characterId ?? null,
    chartId: track?.chartId ?? null,
    posterDrawing: poster?.drawing ?? null,
  };
}

/** Keeps the card of a scene whose document is known to be one. */
export function refreshCard(scene: Scene): void {
  scene.card = cardOfDocument(scene.document);
  scene.charts = JSON.stringify([...chartIdsOfScene(scene.document)]);
}

/** Keeps the card of a scene that may be damaged; such a one says so, beside the others. */
export function keepCard(scene: Scene): void {
  const [fault] = faultsOfShape('scene', scene.document);
  if (fault === undefined) refreshCard(scene);
  else scene.card = { ...DAMAGED, fault };
}

export function cardOf({ id, production, title, card, touchedAt, notes, revision }: Scene): SceneCard {
  return {
    ...(card ?? DAMAGED),
    id,
    productionId: production.id,
    title,
    notes: notes?.revision === revision ? notes : null,
    touchedAt: touchedAt.toISOString(),
  };
}
