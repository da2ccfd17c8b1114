/** Signing in and out of a server that a room shares, and who has. */
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Put, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { RoomLinkView, RoomSessionView, RoomView } from '@zest-jaw/core';
import { CookieOptions, Response } from 'express';
import { notThere, Problem } from '../guard/problem.js';
import { Asking, cookieName } from './atTheDoor.middleware.js';
import { EnterByLinkDto, EnterDto, NameDto, NewPassphraseDto } from './room.dto.js';
import { RoomService, SESSION_IDLE, type Member } from './room.service.js';

/** Whether what goes over the network is encrypted: a boolean. */
export const IS_ENCRYPTED = Symbol('IS_ENCRYPTED');

@ApiTags('room')
@Controller('room')
export class RoomController {
  private readonly cookie: string;
  private readonly kept: CookieOptions;

  constructor(
    private readonly room: RoomService,
    @Inject(IS_ENCRYPTED) isEncrypted: boolean,
  ) {
    this.cookie = cookieName(isEncrypted);
    this.kept = { httpOnly: true, sameSite: 'strict', secure: isEncrypted, path: '/' };
  }

  @Get()
  @ApiOperation({ summary: 'Whether people sign in here, and who has from this browser.' })
  stands(@Asking() asking: Member | undefined): RoomView {
    return { isRoom: this.room.isRoom, readOnly: this.room.readOnly, me: asking ? { name: asking.name, isGuest: asking.isGuest } : null };
  }

  @Get('sessions')
  @ApiOperation({ summary: 'The browsers that have signed in, last seen first.' })
  sessions(@Asking() asking: Member | undefined): RoomSessionView[] {
    return this.room.all().map(({ id, name, isGuest, createdAt, seenAt }) => ({
      id,
      name,
      isGuest,
      createdAt: createdAt.toISOString(),
      seenAt: seenAt.toISOString(),
      isMine: id === asking?.sessionId,
    }));
  }

  @Post('sessions')
  @HttpCode(204)
  @ApiOperation({ summary: 'Signs this browser in, by a name of one’s own and the passphrase.' })
  async enter(@Body() { name, passphrase }: EnterDto, @Asking() asking: Member | undefined, @Res() response: Response): Promise<void> {
    this.mustBeRoom();
    const token = await this.room.enter(name, passphrase);
    await this.letIn(token, asking, response);
  }

  @Delete('sessions/mine')
  @HttpCode(204)
  @ApiOperation({ summary: 'Signs this browser out.' })
  async leave(@Asking() asking: Member | undefined, @Res() response: Response): Promise<void> {
    if (asking) await this.room.end(asking.sessionId);
    response.clearCookie(this.cookie, this.kept).status(204).end();
  }

  @Put('sessions/mine')
  @HttpCode(204)
  @ApiOperation({ summary: 'Calls whoever sits here by another name from now on.' })
  async rename(@Body() { name }: NameDto, @Asking() asking: Member | undefined): Promise<void> {
    if (!asking) throw notThere('sign-in');
    await this.room.rename(asking.sessionId, name);
  }

  @Delete('sessions/:id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Shows a browser out.' })
  end(@Param('id') id: string): Promise<void> {
    return this.room.end(id);
  }

  @Put('passphrase')
  @HttpCode(204)
  @ApiOperation({ summary: 'Sets another passphrase. Everybody else signs in anew, and links lead nowhere any more.' })
  async change(@Body() { now, next }: NewPassphraseDto, @Asking() asking: Member | undefined): Promise<void> {
    this.mustBeRoom();
    if (!(await this.room.isPassphrase(now)))
      throw new Problem(422, 'Cannot be used', 'That is not the passphrase as it is now. It was not changed.');
    await this.room.setPassphrase(next, asking?.sessionId);
  }

  @Get('links')
  @ApiOperation({ summary: 'The links by which devices come in to look and to shoot, newest first.' })
  async links(): Promise<RoomLinkView[]> {
    return (await this.room.links()).map(({ id, name, createdAt }) => ({ id, name, createdAt: createdAt.toISOString() }));
  }

  @Post('links')
  @ApiOperation({ summary: 'A new link; what it carries is told this once.' })
  newLink(@Body() { name }: NameDto): Promise<{ id: string; code: string }> {
    this.mustBeRoom();
    return this.room.newLink(name);
  }

  @Delete('links/:id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Takes a link away.' })
  removeLink(@Param('id') id: string): Promise<void> {
    return this.room.removeLink(id);
  }

  @Post('links/entered')
  @HttpCode(204)
  @ApiOperation({ summary: 'Lets this browser in by what a link carries.' })
  async enterByLink(@Body() { code }: EnterByLinkDto, @Asking() asking: Member | undefined, @Res() response: Response): Promise<void> {
    this.mustBeRoom();
    // Whoever has signed in stays who they are.
    if (asking && !asking.isGuest) return void response.status(204).end();
    const token = await this.room.enterByLink(code);
    await this.letIn(token, asking, response);
  }

  private mustBeRoom(): void {
    if (!this.room.isRoom) throw new Problem(409, 'Not a room', 'Nobody signs in here: this Zest Jaw is of this computer alone.');
  }

  /** What the browser came with before is ended: a cookie that was slipped to it must not become a good one. */
  private async letIn(token: string, before: Member | undefined, response: Response): Promise<void> {
    if (before) await this.room.end(before.sessionId);
    response
      .cookie(this.cookie, token, { ...this.kept, maxAge: SESSION_IDLE })
      .status(204)
      .end();
  }
}
