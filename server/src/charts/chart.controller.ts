import { EntityManager } from '@mikro-orm/libsql';
import { Controller, Get, Param } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { ChartView } from '@zest-jaw/core';
import { notThere } from '../guard/problem.js';
import { Chart } from '../storage/entities.js';

@ApiTags('charts')
@Controller('charts')
export class ChartController {
  constructor(private readonly em: EntityManager) {}

  @Get()
  @ApiOperation({ summary: 'Every mouth chart, with its drawings.' })
  async list(): Promise<ChartView[]> {
    const charts = await this.em.findAll(Chart, { orderBy: { name: 'asc' } });
    return charts.map(({ id, name, revision, document }) => ({ id, name, revision, document }));
  }

  @Get(':id')
  @ApiOperation({ summary: 'One mouth chart.' })
  async get(@Param('id') chartId: string): Promise<ChartView> {
    const chart = await this.em.findOne(Chart, { id: chartId });
    if (!chart) throw notThere('mouth chart');
    const { id, name, revision, document } = chart;
    return { id, name, revision, document };
  }
}
