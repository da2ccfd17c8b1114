import {
  Body,
  Controller,
  Delete,
  Get,
  Header,
  HttpCode,
  Param,
  ParseIntPipe,
  Post,
  Res,
  UploadedFiles,
  UseInterceptors,
} from '@nestjs/common';
import { FilesInterceptor } from '@nestjs/platform-express';
import { ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { ImportView, JobView, PlacedArt } from '@zest-jaw/core';
import { Response } from 'express';
import { jobView } from '../jobs/job.service.js';
import { MAX_UPLOAD_BYTES } from '../scenes/limits.js';
import { AcceptImportDto, ImportDto } from './import.dto.js';
import { ImportService, MOST_FILES, type UploadedPicture } from './import.service.js';

@ApiTags('imports')
@Controller('imports')
export class ImportController {
  constructor(private readonly imports: ImportService) {}

  @Post()
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FilesInterceptor('files', MOST_FILES, { preservePath: true, limits: { fileSize: MAX_UPLOAD_BYTES } }))
  @ApiOperation({ summary: 'Looks for mouths in files (field `files`); answers with the job. Nothing is kept until it is accepted.' })
  async begin(@Body() dto: ImportDto, @UploadedFiles() files: UploadedPicture[] = []): Promise<JobView> {
    return jobView(await this.imports.begin(dto, files));
  }

  @Post(':id/again')
  @ApiOperation({ summary: 'Looks at the same files again, cut otherwise; answers with the new job.' })
  async again(@Param('id') id: string, @Body() dto: ImportDto): Promise<JobView> {
    return jobView(await this.imports.again(id, dto));
  }

  @Get(':id')
  @ApiOperation({ summary: 'What was found.' })
  view(@Param('id') id: string): Promise<ImportView> {
    return this.imports.view(id);
  }

  @Get(':id/previews/:index')
  @Header('Cache-Control', 'private, max-age=3600')
  @Header('X-Content-Type-Options', 'nosniff')
  @ApiOperation({ summary: 'A small picture of a mouth that was found.' })
  async preview(@Param('id') id: string, @Param('index', ParseIntPipe) index: number, @Res() response: Response): Promise<void> {
    response.type('image/png').send(await this.imports.preview(id, index));
  }

  @Post(':id/accept')
  @ApiOperation({ summary: 'Keeps the pictures of the mouths named, and answers with their art. The rest goes.' })
  accept(@Param('id') id: string, @Body() { mouths }: AcceptImportDto): Promise<PlacedArt[]> {
    return this.imports.accept(id, mouths);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Gives the import up; nothing of it stays.' })
  async giveUp(@Param('id') id: string): Promise<void> {
    await this.imports.giveUp(id);
  }
}
