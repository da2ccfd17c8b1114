/** Files by content: the same bytes are kept once, under their SHA-256. */
import { EntityManager } from '@mikro-orm/knex';
import { Injectable } from '@nestjs/common';
import { createHash } from 'node:crypto';
import { notThere } from '../guard/problem.js';
import { Asset } from '../storage/entities.js';

@Injectable()
export class AssetStore {
  constructor(private readonly em: EntityManager) {}

  /** Adds an asset to the current unit of work, or finds the one that is there. */
  async keep(bytes: Uint8Array, mediaType: string, fileName: string): Promise<Asset> {
    const hash = createHash('sha256').update(bytes).digest('hex');
    const known = await this.em.findOne(Asset, { hash });
    if (known) {
      known.unusedSince = null;
      return known;
    }
    const asset = this.em.create(Asset, { hash, mediaType, fileName, bytes: Buffer.from(bytes), unusedSince: null });
    this.em.persist(asset);
    return asset;
  }

  async load(hash: string): Promise<Asset> {
    const asset = await this.em.findOne(Asset, { hash }, { populate: ['bytes'] });
    if (!asset) throw notThere('file');
    // libsql hands a lazily loaded blob over as an ArrayBuffer, past the ORM's own conversion.
    if (!Buffer.isBuffer(asset.bytes)) asset.bytes = Buffer.from(asset.bytes as ArrayBuffer);
    return asset;
  }

  /** Which of some hashes no file is kept under. */
  async missing(hashes: Iterable<string>): Promise<string[]> {
    const wanted = [...hashes];
    const known = await this.em.find(Asset, { hash: { $in: wanted } }, { fields: ['hash'] });
    const found = new Set(known.map((asset) => asset.hash));
    return wanted.filter((hash) => !found.has(hash));
  }

  /** Pictures as data URIs, by hash; those that are not there are left out. */
  async dataUris(hashes: Iterable<string>): Promise<Map<string, string>> {
    const uris = new Map<string, string>();
    const missing = new Set(await this.missing(hashes));
    for (const hash of hashes) {
      if (missing.has(hash)) continue;
      const { mediaType, bytes } = await this.load(hash);
      uris.set(hash, `data:${mediaType};base64,${bytes.toString('base64')}`);
    }
    return uris;
  }
}
