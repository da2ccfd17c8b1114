/** How far a lane is shot, and the pictures that the camera took of it. */
import { EntityManager } from '@mikro-orm/knex';
import { Body, Controller, Get, Param, ParseIntPipe, Put, Query, UploadedFile, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import { memoryStorage } from 'multer';
import { isShootingState, sceneSettings, type ShootingState, type ShotPictureView } from '@zest-jaw/core';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse, notThere } from '../guard/problem.js';
import { Scene, ShotPicture } from '../storage/entities.js';
import { MAX_SHOT_BYTES, ShootingDto, ShotPictureDto } from './shooting.dto.js';

/** JPEG, ISO/IEC 10918-1: a start of image, then a marker. */
const JPEG = [0xff, 0xd8, 0xff] as const;

/** A lane is shot by a camera on ones and by one on twos, each for itself. */
const shootOf = (track: string, on: string | undefined): string => (on === '2' ? `${track} on twos` : track);

@ApiTags('scenes')
@Controller('scenes/:id/shooting/:track')
export class ShootingController {
  constructor(
    private readonly em: EntityManager,
    private readonly assets: AssetStore,
  ) {}

  @Get()
  @ApiOperation({ summary: 'How far a lane is shot by a camera on ones, or on twos (`on=2`); null before it is begun.' })
  async state(@Param('id') id: string, @Param('track') track: string, @Query('on') on?: string): Promise<{ state: ShootingState | null }> {
    const scene = await this.em.findOne(Scene, { id }, { populate: ['shooting'] });
    if (!scene) throw notThere('scene');
    return { state: scene.shooting[shootOf(track, on)] ?? null };
  }

  @Put()
  @ApiOperation({ summary: 'Keeps how far a lane is shot.' })
  async keep(
    @Param('id') id: string,
    @Param('track') track: string,
    @Body() { state }: ShootingDto,
    @Query('on') on?: string,
  ): Promise<{ state: ShootingState }> {
    // Two lanes may be shot at once: neither forgets the other.
    return this.em.transactional(async () => {
      const scene = await this.sceneOf(id, track);
      if (!isShootingState(state, sceneSettings(scene.document).lengthFrames))
        throw cannotUse('This is not how far this lane can be shot. Reload the page and go on from there.');
      scene.shooting = { ...scene.shooting, [shootOf(track, on)]: state };
      return { state };
    });
  }

  @Get('pictures')
  @ApiOperation({ summary: 'The pictures that were taken of a lane, in its order, the newest of each.' })
  async pictures(@Param('id') id: string, @Param('track') track: string, @Query('on') on?: string): Promise<ShotPictureView[]> {
    const rows = await this.em.find(ShotPicture, { scene: id, shoot: shootOf(track, on) }, { orderBy: { id: 'asc' } });
    const newest = new Map(rows.map((row) => [row.picture, row]));
    return [...newest.values()]
      .sort((a, b) => a.picture - b.picture)
      .map(({ picture, asset, chartId, drawing, practice }) => ({ picture, asset, chartId, drawing, practice }));
  }

  @Put('pictures/:picture')
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FileInterceptor('picture', { storage: memoryStorage(), limits: { fileSize: MAX_SHOT_BYTES, files: 1 } }))
  @ApiOperation({ summary: 'Keeps a picture of the camera (field `picture`: JPEG). One taken before stays, behind it.' })
  async keepPicture(
    @Param('id') id: string,
    @Param('track') track: string,
    @Param('picture', ParseIntPipe) picture: number,
    @Body() { chartId, drawing, practice }: ShotPictureDto,
    @UploadedFile() file: { readonly buffer: Buffer } | undefined,
    @Query('on') on?: string,
  ): Promise<ShotPictureView> {
    const scene = await this.sceneOf(id, track);
    const { lengthFrames } = sceneSettings(scene.document);
    if (picture < 0 || picture >= lengthFrames)
      throw cannotUse(`The lane has ${lengthFrames} frames; there is no picture ${picture}. Reload the page and go on from there.`);
    if (!file || !JPEG.every((byte, at) => file.buffer[at] === byte))
      throw cannotUse('A picture of the camera comes as JPEG. Take it again.');
    const { hash } = await this.assets.keep(file.buffer, 'image/jpeg', `${scene.title} ${picture}.jpg`);
    const taken = { picture, asset: hash, chartId: chartId ?? null, drawing: drawing ?? null, practice: practice === 'yes' };
    this.em.persist(this.em.create(ShotPicture, { scene, shoot: shootOf(track, on), ...taken, at: new Date() }));
    await this.em.flush();
    return taken;
  }

  private async sceneOf(id: string, track: string): Promise<Scene> {
    const scene = await this.em.findOne(Scene, { id }, { populate: ['document', 'shooting'] });
    if (!scene?.document.tracks.some((one) => one.id === track)) throw notThere('lane');
    return scene;
  }
}
