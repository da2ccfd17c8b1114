/** Scenes as they were kept before they had all of their tables, brought up to date. */
import type { SceneDocument } from './sceneDocument.js';

/** A scene as it is kept now; one that is so already is answered as it is. Anything may be passed. */
export function upgradeScene<S>(scene: S): S {
  const tables = scene as Partial<SceneDocument> | null;
  if (!tables || typeof tables !== 'object' || (tables.asides && tables.remarks && tables.places)) return scene;
  return { ...scene, asides: tables.asides ?? [], remarks: tables.remarks ?? [], places: tables.places ?? [] };
}
