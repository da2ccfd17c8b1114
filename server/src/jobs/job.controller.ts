import { Controller, Delete, Get, HttpCode, MessageEvent, Param, Res, Sse } from '@nestjs/common';
import { basename, dirname } from 'node:path';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { Response } from 'express';
import { map, Observable } from 'rxjs';
import { HandOffService } from '../handOff/handOff.service.js';
import { SEVERAL_JOB, SeveralService } from '../handOff/several.service.js';
import type { JobView, OfferView } from '@zest-jaw/core';
import { JobService, jobView } from './job.service.js';

@ApiTags('jobs')
@Controller('jobs')
export class JobController {
  constructor(
    private readonly jobs: JobService,
    private readonly handOffs: HandOffService,
    private readonly several: SeveralService,
  ) {}

  @Get(':id')
  @ApiOperation({ summary: 'How a job stands.' })
  async get(@Param('id') id: string): Promise<JobView> {
    return jobView(await this.jobs.load(id));
  }

  @Sse(':id/events')
  @ApiOperation({ summary: 'The job at every change, as server-sent events, until it ends.' })
  async events(@Param('id') id: string): Promise<Observable<MessageEvent>> {
    await this.jobs.load(id);
    return this.jobs.watch(id).pipe(map((view) => ({ data: view })));
  }

  @Delete(':id')
  @ApiOperation({ summary: 'Cancels a job.' })
  cancel(@Param('id') id: string): Promise<JobView> {
    return this.jobs.cancel(id);
  }

  @Get(':id/reading')
  @ApiOperation({ summary: 'What was read again and waits to be taken or left; null once it has been.' })
  offer(@Param('id') id: string): Promise<OfferView | null> {
    return this.jobs.offerOf(id);
  }

  @Delete(':id/reading')
  @HttpCode(204)
  @ApiOperation({ summary: 'What was read again has been taken or left.' })
  settle(@Param('id') id: string): Promise<void> {
    return this.jobs.settleOffer(id);
  }

  @Get(':id/result')
  @ApiOperation({ summary: 'The file a finished job made.' })
  async result(@Param('id') id: string, @Res() response: Response): Promise<void> {
    const job = await this.jobs.load(id);
    const { path, name } = job.kind === SEVERAL_JOB ? this.several.resultOf(job) : await this.handOffs.resultOf(job);
    // By its folder: an absolute path with a dot in it would be taken for a hidden file.
    response.download(basename(path), name, { root: dirname(path) });
  }
}
