import { Controller, Get, Header, Param, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { Response } from 'express';
import { AssetStore } from './asset.store.js';

@ApiTags('assets')
@Controller('assets')
export class AssetController {
  constructor(private readonly assets: AssetStore) {}

  @Get(':hash')
  @Header('Cache-Control', 'private, max-age=31536000, immutable')
  // An SVG opened by its own address must not run anything.
  @Header('Content-Security-Policy', "default-src 'none'; style-src 'unsafe-inline'")
  @Header('X-Content-Type-Options', 'nosniff')
  @ApiOperation({ summary: 'A file by the hash of its content: a recording or a head.' })
  async get(@Param('hash') hash: string, @Res() response: Response): Promise<void> {
    const asset = await this.assets.load(hash);
    response.type(asset.mediaType).send(asset.bytes);
  }
}
