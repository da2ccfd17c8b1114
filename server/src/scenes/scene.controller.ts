import { EntityManager } from '@mikro-orm/knex';
import { Body, Controller, Delete, Get, Header, HttpCode, Param, ParseIntPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import {
  exposureSheetCsv,
  nameOfLane,
  sceneSettings,
  upgradeScene,
  type JobView,
  type RevisionView,
  type SceneCard,
  type SceneView,
  type SceneDocument,
  type WordWay,
} from '@zest-jaw/core';
import { faultsOfShape } from '@zest-jaw/engine/documents';
import { randomUUID } from 'node:crypto';
import { CopyDocumentDto, PatchDocumentDto } from '../documents/patch.dto.js';
import { PatchOfBody, type Change } from '../documents/patchOfBody.js';
import { Asking } from '../room/atTheDoor.middleware.js';
import type { Member } from '../room/room.service.js';
import { cannotUse } from '../guard/problem.js';
import { HandOffDto } from '../handOff/handOff.dto.js';
import { HandOffService } from '../handOff/handOff.service.js';
import { PictureService } from '../handOff/picture.service.js';
import { JobService, jobView } from '../jobs/job.service.js';
import { Character, Job, Production, Scene } from '../storage/entities.js';
import { READING_JOB, ReadingService } from './reading.service.js';
import { NewSceneDto, PicturesDto, ReadClipDto, ReadMarksDto, WordWaysDto } from './scene.dto.js';
import { cardOf, keepCard } from './sceneCard.js';
import { SceneStore } from './scene.store.js';
import { givenOf, SceneUploadService, StartedScene } from './sceneUpload.service.js';

@ApiTags('scenes')
@Controller('scenes')
export class SceneController {
  constructor(
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
    private readonly uploads: SceneUploadService,
    private readonly pictures: PictureService,
    private readonly handOffs: HandOffService,
    private readonly jobs: JobService,
    private readonly readings: ReadingService,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Every scene, last touched first.' })
  async list(): Promise<SceneCard[]> {
    const scenes = await this.em.findAll(Scene, { orderBy: { touchedAt: 'desc' } });
    // Made where there is none yet, as in a database from before cards were kept; no other document is read.
    const without = scenes.filter((scene) => !scene.card).map((scene) => scene.id);
    if (without.length > 0) {
      for (const scene of await this.em.find(Scene, { id: { $in: without } }, { populate: ['document'] })) keepCard(scene);
      await this.em.flush();
    }
    return scenes.map(cardOf);
  }

  @Post()
  @ApiOperation({ summary: 'A new scene from a decoded recording; its reading starts at once.' })
  create(@Body() dto: NewSceneDto): Promise<StartedScene> {
    return this.uploads.create(dto);
  }

  @Post('copies')
  @ApiOperation({ summary: 'A new scene from a whole document, such as one that no longer fits the server’s.' })
  async copy(@Body() dto: CopyDocumentDto): Promise<{ id: string }> {
    const sent = upgradeScene(dto.document as unknown as SceneDocument);
    const [fault] = faultsOfShape('scene', sent);
    if (fault) throw cannotUse(fault);
    const document: SceneDocument = { ...sent, settings: [{ ...sceneSettings(sent), title: dto.title }] };
    await this.scenes.check(document);
    const speaker = await this.em.findOne(Character, { id: document.tracks[0]?.characterId ?? '' });
    if (!speaker) throw cannotUse('Nobody speaks in this scene document.');
    return this.keepNew(document, speaker.production);
  }

  @Post(':id/copies')
  @ApiOperation({ summary: 'A copy of a scene beside it, as it is now; its history stays with the first one.' })
  async duplicate(@Param('id') id: string): Promise<{ id: string }> {
    const { document, production } = await this.scenes.load(id);
    const titles = new Set((await this.em.find(Scene, { production: production.id })).map((scene) => scene.title));
    const base = sceneSettings(document).title.slice(0, 180);
    let title = `${base}, copy`;
    for (let count = 2; titles.has(title); count++) title = `${base}, copy ${count}`;
    return this.keepNew({ ...document, settings: [{ ...sceneSettings(document), title }] }, production);
  }

  @Get(':id')
  @ApiOperation({ summary: 'One scene, whole.' })
  async get(@Param('id') id: string): Promise<SceneView> {
    const { production, revision, document } = await this.scenes.load(id);
    const [reading] = await this.em.find(Job, { scene: id, kind: READING_JOB }, { orderBy: { createdAt: 'desc' }, limit: 1 });
    return { id, productionId: production.id, revision, document, reading: reading ? jobView(reading) : null };
  }

  @Get(':id/patches')
  @ApiOperation({ summary: 'The patches since a revision, oldest first.' })
  async patches(@Param('id') id: string, @Query('since', ParseIntPipe) since: number): Promise<RevisionView[]> {
    await this.scenes.load(id);
    return this.scenes.patchesSince(id, since);
  }

  @Get(':id/past')
  @ApiOperation({ summary: 'The patches that led to a revision, newest first, a page of them.' })
  async past(@Param('id') id: string, @Query('upTo', ParseIntPipe) upTo: number): Promise<RevisionView[]> {
    await this.scenes.load(id);
    return this.scenes.patchesUpTo(id, upTo);
  }

  @Patch(':id')
  @ApiOperation({ summary: 'Changes a scene. 409 on a stale base, with the patches since; harmless to repeat.' })
  @ApiBody({ type: PatchDocumentDto })
  async change(
    @Param('id') id: string,
    @Body(PatchOfBody) { baseRevision, patch }: Change,
    @Asking() asking: Member | undefined,
  ): Promise<{ revision: number }> {
    const { revision } = await this.scenes.apply(id, baseRevision, patch, asking?.name);
    return { revision };
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Removes a scene and its history.' })
  async remove(@Param('id') id: string): Promise<void> {
    await this.em.removeAndFlush(await this.scenes.load(id));
  }

  @Post(':id/readings')
  @ApiOperation({ summary: 'Reads a clip again, or parts of it, with the script it has now. Ink stays.' })
  async read(@Param('id') id: string, @Body() { clipId, parts, offer, ...given }: ReadClipDto): Promise<JobView> {
    const { document } = await this.scenes.load(id);
    const clip = document.clips.find((candidate) => candidate.id === clipId);
    if (!clip) throw cannotUse('That recording is no longer in the scene. Reload it and try again.');
    const request = { clipId, ...(parts && { parts }), ...(offer && { offer }), ...givenOf(given, clip.lengthSamples) };
    const job = this.jobs.create(READING_JOB, id, request);
    await this.em.flush();
    this.jobs.start(job.id);
    return jobView(job);
  }

  @Post(':id/words/ways')
  @HttpCode(200)
  @ApiOperation({ summary: 'The ways a word may be said in its own span of a recording, each laid on what is heard there.' })
  ways(@Param('id') id: string, @Body() dto: WordWaysDto): Promise<readonly WordWay[]> {
    return this.readings.ways(id, dto);
  }

  @Post(':id/marks/reading')
  @ApiOperation({ summary: 'Makes the reading of a clip from its ear marks, and keys its track. Ink stays.' })
  async readMarks(@Param('id') id: string, @Body() { clipId, part }: ReadMarksDto): Promise<{ warnings: readonly string[] }> {
    return { warnings: await this.readings.readMarks(id, clipId, part) };
  }

  @Post(':id/pictures')
  @ApiOperation({ summary: 'Renders a track as numbered PNGs in a zip; answers with the job.' })
  async renderPictures(@Param('id') id: string, @Body() dto: PicturesDto): Promise<JobView> {
    return jobView(await this.pictures.begin(id, dto));
  }

  @Post(':id/hand-offs')
  @ApiOperation({ summary: 'Makes a printed sheet, sprites of a chart, or a bundle; answers with the job, whose result is the file.' })
  async handOff(@Param('id') id: string, @Body() dto: HandOffDto): Promise<JobView> {
    return jobView(await this.handOffs.begin(id, dto));
  }

  @Get(':id/sheet.csv')
  @Header('Content-Type', 'text/csv; charset=utf-8')
  @Header('Content-Disposition', 'attachment; filename="exposure-sheet.csv"')
  @ApiOperation({ summary: 'The exposure sheet as CSV.' })
  async sheet(@Param('id') id: string): Promise<string> {
    const { document } = await this.scenes.load(id);
    const charts = await this.scenes.chartsOf(document);
    const characters = new Map((await this.em.findAll(Character)).map((character) => [character.id, character.name]));
    return exposureSheetCsv(
      document,
      document.tracks.map((track) => ({
        trackId: track.id,
        name: nameOfLane(track, characters.get(track.characterId) ?? track.id),
        charts,
      })),
    );
  }

  /** Keeps a document as a new scene. */
  private async keepNew(document: SceneDocument, production: Production): Promise<{ id: string }> {
    const id = randomUUID();
    const { title } = sceneSettings(document);
    const scene = this.em.create(Scene, { id, production, title, document, revision: 0, createdAt: new Date(), touchedAt: new Date() });
    keepCard(scene);
    this.em.persist(scene);
    await this.em.flush();
    return { id };
  }
}
