/** Passes of a scene, saved by name, and what the checker found of it. */
import { EntityManager } from '@mikro-orm/knex';
import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import {
  addRemark,
  isRefusal,
  laneFacts,
  upgradeScene,
  type NoteCounts,
  type PassView,
  type Remark,
  type SceneDocument,
} from '@zest-jaw/core';
import { faultsOfShape, maybeFaultOfRecord } from '@zest-jaw/engine/documents';
import { randomUUID } from 'node:crypto';
import { cannotUse, notThere } from '../guard/problem.js';
import { SceneStore } from '../scenes/scene.store.js';
import { Pass } from '../storage/entities.js';
import { ChangePassDto, NewPassDto, NotesDto, RemarkDto } from './pass.dto.js';

/** A scene keeps so many passes; of those it kept by itself the oldest goes first. */
const MOST_PASSES = 200;
const MOST_BY_ITSELF = 40;

const passView = ({ id, name, why, byItself, revision, facts, at }: Pass): PassView => ({
  ...{ id, name, why, byItself, revision, facts },
  at: at.toISOString(),
});

@ApiTags('scenes')
@Controller('scenes/:id')
export class PassController {
  constructor(
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
  ) {}

  @Get('passes')
  @ApiOperation({ summary: 'The passes of a scene, newest first.' })
  async list(@Param('id') id: string): Promise<PassView[]> {
    await this.scenes.load(id);
    return (await this.em.find(Pass, { scene: id, removed: false }, { orderBy: { at: 'desc', id: 'desc' } })).map(passView);
  }

  @Post('passes')
  @ApiOperation({ summary: 'Keeps the scene as it is, or a document that is given, as a pass.' })
  async keep(
    @Param('id') id: string,
    @Body() { name, why, byItself, notes: counted, revision, document: sent }: NewPassDto,
  ): Promise<PassView> {
    const scene = await this.scenes.load(id);
    if (revision !== undefined && revision > scene.revision)
      throw cannotUse(`The scene is at revision ${scene.revision}, and ${revision} has not been yet. Keep it as it is now.`);
    const own = revision === undefined || revision === scene.revision ? scene.document : await this.scenes.documentAt(id, revision);
    const document = sent === undefined ? own : upgradeScene(sent as unknown as SceneDocument);
    if (sent !== undefined) {
      const [fault] = faultsOfShape('scene', document);
      if (fault) throw cannotUse(fault);
    }
    const count = await this.em.count(Pass, { scene: id, removed: false, byItself });
    if (!byItself && count >= MOST_PASSES) throw cannotUse(`This scene has ${MOST_PASSES} passes. Remove one before you keep another.`);
    const pass = this.em.create(Pass, {
      ...{ id: randomUUID(), scene, name: name.trim() || 'A pass', why: why.trim(), byItself, removed: false },
      ...{ revision: revision ?? scene.revision, document, facts: { ...laneFacts(document), notes: counted ?? null }, at: new Date() },
    });
    this.em.persist(pass);
    if (byItself && count >= MOST_BY_ITSELF) {
      const [oldest] = await this.em.find(Pass, { scene: id, removed: false, byItself }, { orderBy: { at: 'asc' }, limit: 1 });
      if (oldest) oldest.removed = true;
    }
    await this.em.flush();
    return passView(pass);
  }

  @Get('passes/:pass')
  @ApiOperation({ summary: 'The document of a pass, whole.' })
  async document(@Param('id') id: string, @Param('pass') passId: string): Promise<SceneDocument> {
    const pass = await this.em.findOne(Pass, { id: passId, scene: id }, { populate: ['document'] });
    if (!pass) throw notThere('pass');
    return pass.document;
  }

  @Put('passes/:pass')
  @ApiOperation({ summary: 'Removes a pass from the list, or brings it back.' })
  async change(@Param('id') id: string, @Param('pass') passId: string, @Body() { removed }: ChangePassDto): Promise<PassView> {
    const pass = await this.em.findOne(Pass, { id: passId, scene: id });
    if (!pass) throw notThere('pass');
    pass.removed = removed;
    await this.em.flush();
    return passView(pass);
  }

  @Post('remarks')
  @ApiOperation({ summary: 'Keeps what somebody who looks at the scene says of a frame, as a remark in it.' })
  async remark(@Param('id') id: string, @Body() { frame, by, text, strokes }: RemarkDto): Promise<{ remarks: readonly Remark[] }> {
    const { document } = await this.scenes.applyMade(id, async (scene) => {
      const patch = addRemark(scene, { frame, by, text, ...(strokes && { strokes }) }, randomUUID);
      if (isRefusal(patch)) throw cannotUse(patch.refusal);
      const [op] = patch.ops;
      const fault = op?.op === 'put' ? maybeFaultOfRecord('scene', op.table, op.after) : undefined;
      if (fault) throw cannotUse(fault);
      return patch;
    });
    return { remarks: document.remarks };
  }

  @Put('notes')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keeps how many notes the checker found, of which revision; an older one than is kept changes nothing.' })
  async keepNotes(@Param('id') id: string, @Body() counts: NotesDto): Promise<void> {
    const scene = await this.scenes.load(id);
    const { revision, heavy, seen, small, remarks } = counts;
    if (revision > scene.revision || (scene.notes && scene.notes.revision > revision)) return;
    const next: NoteCounts = { revision, heavy, seen, small, remarks };
    scene.notes = next;
    await this.em.flush();
  }
}
