import { EntityManager } from '@mikro-orm/libsql';
import { Body, Controller, Get, Param, ParseIntPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { chartSettings, checkChart, type ChartDocument, type ChartView, type RevisionView } from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { CopyDocumentDto, PatchDocumentDto, patchOfBody } from '../documents/patch.dto.js';
import { cannotUse } from '../guard/problem.js';
import { Chart } from '../storage/entities.js';
import { ChartStore } from './chart.store.js';

function chartView({ id, name, revision, document }: Chart): ChartView {
  return { id, name, revision, document };
}

@ApiTags('charts')
@Controller('charts')
export class ChartController {
  constructor(
    private readonly em: EntityManager,
    private readonly charts: ChartStore,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Every mouth chart, with its drawings.' })
  async list(): Promise<ChartView[]> {
    return (await this.em.findAll(Chart, { orderBy: { name: 'asc' } })).map(chartView);
  }

  @Post('copies')
  @ApiOperation({ summary: 'A new chart from a whole document, such as one that no longer fits the server’s.' })
  async copy(@Body() { title, document: sent }: CopyDocumentDto): Promise<{ id: string }> {
    const [fault] = checkChart(sent);
    if (fault) throw cannotUse(fault);
    const chart = sent as unknown as ChartDocument;
    const document: ChartDocument = { ...chart, settings: [{ ...chartSettings(chart), name: title }] };
    const id = randomUUID();
    this.em.persist(this.em.create(Chart, { id, name: title, document, revision: 0 }));
    await this.em.flush();
    return { id };
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

  @Patch(':id')
  @ApiOperation({ summary: 'Changes a chart. 409 on a stale base, with the patches since; harmless to repeat.' })
  async change(@Param('id') id: string, @Body() body: PatchDocumentDto): Promise<{ revision: number }> {
    const { revision } = await this.charts.apply(id, body.baseRevision, patchOfBody(body));
    return { revision };
  }
}
