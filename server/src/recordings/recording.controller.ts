import { Controller, Get, Param, Post, UploadedFile, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { JobView, RecordingView } from '@zest-jaw/core';
import { jobView } from '../jobs/job.service.js';
import { MAX_UPLOAD_BYTES } from '../scenes/limits.js';
import { RecordingService, UploadedRecording } from './recording.service.js';

@ApiTags('recordings')
@Controller('recordings')
export class RecordingController {
  constructor(private readonly recordings: RecordingService) {}

  @Post()
  @ApiConsumes('multipart/form-data')
  @UseInterceptors(FileInterceptor('recording', { limits: { fileSize: MAX_UPLOAD_BYTES, files: 1 } }))
  @ApiOperation({
    summary: 'Takes in a recording (field `recording`: WAV, FLAC, MP3, Ogg Vorbis or Opus); answers with the job that decodes it.',
  })
  async begin(@UploadedFile() file: UploadedRecording | undefined): Promise<JobView> {
    return jobView(await this.recordings.begin(file));
  }

  @Get(':id')
  @ApiOperation({ summary: 'A decoded recording: the hash of its 48 kHz sound and its length in samples.' })
  view(@Param('id') id: string): Promise<RecordingView> {
    return this.recordings.view(id);
  }
}
