import { Controller, HttpCode, Post, UploadedFile, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { SceneDocument } from '@zest-jaw/core';
import { MAX_UPLOAD_BYTES } from '../scenes/limits.js';
import { BundleService, type OpenedBundle } from './bundle.service.js';

@ApiTags('bundles')
@Controller('bundles')
export class BundleController {
  constructor(private readonly bundles: BundleService) {}

  @Post()
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FileInterceptor('bundle', { limits: { fileSize: 5 * MAX_UPLOAD_BYTES, files: 1 } }))
  @ApiOperation({
    summary: 'Opens a bundle (field `bundle`): its scenes beside those that are here, its charts where they are not the same.',
  })
  open(@UploadedFile() file: { readonly path: string } | undefined): Promise<OpenedBundle> {
    return this.bundles.open(file);
  }

  @Post('scenes')
  @HttpCode(200)
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FileInterceptor('bundle', { limits: { fileSize: 5 * MAX_UPLOAD_BYTES, files: 1 } }))
  @ApiOperation({ summary: 'The scenes of a bundle (field `bundle`), to be held against one that is here; nothing of it is kept.' })
  scenes(@UploadedFile() file: { readonly path: string } | undefined): Promise<readonly SceneDocument[]> {
    return this.bundles.scenesOf(file);
  }
}
