import { EntityManager } from '@mikro-orm/knex';
import { Body, Controller, Get, HttpCode, Param, ParseIntPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiBody, ApiOperation, ApiTags } from '@nestjs/swagger';
import { chartSettings, checkChart, replaceDrawing, type ChartDocument, type ChartView, type RevisionView } from '@zest-jaw/core';
import { faultsOfShape } from '@zest-jaw/engine/documents';
import { randomUUID } from 'node:crypto';
import { CopyDocumentDto, PatchDocumentDto } from '../documents/patch.dto.js';
import { PatchOfBody, type Change } from '../documents/patchOfBody.js';
import { Asking } from '../room/atTheDoor.middleware.js';
import type { Member } from '../room/room.service.js';
import { cannotUse } from '../guard/problem.js';
import { Chart } from '../storage/entities.js';
import { NewChartDto, NewPartsDto, ReplaceDrawingDto } from './chart.dto.js';
import { ChartStore } from './chart.store.js';
import { NewChartService } from './newChart.service.js';
import { SceneStore } from '../scenes/scene.store.js';

function chartView({ id, characterId, name, revision, document }: Chart): ChartView {
  return { id, characterId, name, revision, document };
}

@ApiTags('charts')
@Controller('charts')
export class ChartController {
  constructor(
    private readonly em: EntityManager,
    private readonly charts: ChartStore,
    private readonly newCharts: NewChartService,
    private readonly scenes: SceneStore,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Every mouth chart, with its drawings.' })
  async list(): Promise<ChartView[]> {
    return (await this.em.findAll(Chart, { orderBy: { name: 'asc' } })).map(chartView);
  }

  @Post()
  @ApiOperation({ summary: 'A new chart from a starter, or from another chart, for a character that is there or a new one.' })
  async create(@Body() dto: NewChartDto): Promise<{ id: string; characterId: string }> {
    return this.newCharts.create(dto);
  }

  @Post('copies')
  @ApiOperation({ summary: 'A new chart from a whole document, such as one that no longer fits the server’s.' })
  async copy(@Body() { title, document: sent }: CopyDocumentDto): Promise<{ id: string }> {
    const fault = faultsOfShape('chart', sent)[0] ?? checkChart(sent)[0];
    if (fault) throw cannotUse(fault);
    await this.charts.checkPictures(sent as unknown as ChartDocument);
    const chart = sent as unknown as ChartDocument;
    const document: ChartDocument = { ...chart, settings: [{ ...chartSettings(chart), name: title }] };
    const id = randomUUID();
    this.em.persist(this.em.create(Chart, { id, characterId: '', name: title, document, revision: 0 }));
    await this.em.flush();
    return { id };
  }

  @Post(':id/parts')
  @HttpCode(200)
  @ApiOperation({
    summary: 'Gives a head further parts, each with a chart of its own: brows, lids and eyes to begin with, or an empty one.',
  })
  async addParts(@Param('id') id: string, @Body() dto: NewPartsDto): Promise<{ charts: string[] }> {
    return this.newCharts.addParts(id, dto);
  }

  @Get(':id')
  @ApiOperation({ summary: 'One mouth chart.' })
  async get(@Param('id') id: string): Promise<ChartView> {
    return chartView(await this.charts.load(id));
  }

  @Get(':id/patches')
  @ApiOperation({ summary: 'The patches since a revision, oldest first.' })
  async patches(@Param('id') id: string, @Query('since', ParseIntPipe) since: number): Promise<RevisionView[]> {
    await this.charts.load(id);
    return this.charts.patchesSince(id, since);
  }

  @Get(':id/uses')
  @ApiOperation({ summary: 'The titles of the scenes that show each drawing, by the drawing’s id.' })
  async uses(@Param('id') id: string): Promise<Record<string, string[]>> {
    await this.charts.load(id);
    return Object.fromEntries(await this.charts.usesOf(id));
  }

  @Post(':id/replacements')
  @HttpCode(200)
  @ApiOperation({ summary: 'Shows another drawing wherever scenes show this one: one change a scene, undone like any.' })
  async replace(@Param('id') id: string, @Body() { drawing, by }: ReplaceDrawingDto): Promise<{ scenes: number }> {
    const showing = await this.charts.scenesToReplaceIn(id, drawing, by);
    for (const sceneId of showing)
      await this.scenes.applyOwn(sceneId, (scene) => Promise.resolve(replaceDrawing(scene, id, drawing, by, randomUUID)));
    return { scenes: showing.length };
  }

  @Get(':id/past')
  @ApiOperation({ summary: 'The patches that led to a revision, newest first, a page of them.' })
  async past(@Param('id') id: string, @Query('upTo', ParseIntPipe) upTo: number): Promise<RevisionView[]> {
    await this.charts.load(id);
    return this.charts.patchesUpTo(id, upTo);
  }

  @Patch(':id')
  @ApiOperation({ summary: 'Changes a chart. 409 on a stale base, with the patches since; harmless to repeat.' })
  @ApiBody({ type: PatchDocumentDto })
  async change(
    @Param('id') id: string,
    @Body(PatchOfBody) { baseRevision, patch }: Change,
    @Asking() asking: Member | undefined,
  ): Promise<{ revision: number }> {
    const { revision } = await this.charts.apply(id, baseRevision, patch, asking?.name);
    return { revision };
  }
}
