import { Controller, Get, HttpCode, Param, Post, UploadedFile, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { JobView, SceneDocument } from '@zest-jaw/core';
import { jobView } from '../jobs/job.service.js';
import { MAX_UPLOAD_BYTES } from '../scenes/limits.js';
import { BundleService, type OpenedBundle, type UploadedBundle } from './bundle.service.js';

@ApiTags('bundles')
@Controller('bundles')
export class BundleController {
  constructor(private readonly bundles: BundleService) {}

  @Post()
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FileInterceptor('bundle', { limits: { fileSize: 5 * MAX_UPLOAD_BYTES, files: 1 } }))
  @ApiOperation({
    summary: 'Opens a bundle (field `bundle`) as a job: its scenes beside those that are here, its charts where they are not the same.',
  })
  async open(@UploadedFile() file: UploadedBundle | undefined): Promise<JobView> {
    return jobView(await this.bundles.begin(file));
  }

  @Get(':id')
  @ApiOperation({ summary: 'What a bundle became, once its job is done.' })
  opened(@Param('id') id: string): Promise<OpenedBundle> {
    return this.bundles.openedBy(id);
  }

  @Post('scenes')
  @HttpCode(200)
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FileInterceptor('bundle', { limits: { fileSize: 5 * MAX_UPLOAD_BYTES, files: 1 } }))
  @ApiOperation({ summary: 'The scenes of a bundle (field `bundle`), to be held against one that is here; nothing of it is kept.' })
  scenes(@UploadedFile() file: UploadedBundle | undefined): Promise<readonly SceneDocument[]> {
    return this.bundles.scenesOf(file);
  }
}
