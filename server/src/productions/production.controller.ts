import { EntityManager } from '@mikro-orm/knex';
import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import {
  checkFeels,
  checkLimits,
  fullRules,
  isRefusal,
  maybePronunciationFault,
  readMap,
  wordToLookUp,
  type CharacterView,
  type CheckLimits,
  type Feel,
  type JobView,
  type ProductionView,
  type Pronunciation,
  type SoundMap,
} from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { cannotUse, notThere } from '../guard/problem.js';
import { SeveralDto } from '../handOff/several.dto.js';
import { SeveralService } from '../handOff/several.service.js';
import { jobView } from '../jobs/job.service.js';
import { CheckService } from '../passes/check.service.js';
import { LimitsDto } from '../passes/pass.dto.js';
import { Character, Chart, Production, Scene } from '../storage/entities.js';
import { AccentDto, FeelsDto, MapsDto, ProductionDto, PronunciationsDto } from './production.dto.js';

export function characterView(character: Character): CharacterView {
  const { id, name, chart, accent } = character;
  return { id, name, chartId: chart.id, accent };
}

@ApiTags('productions')
@Controller()
export class ProductionController {
  constructor(
    private readonly em: EntityManager,
    private readonly several: SeveralService,
    private readonly checks: CheckService,
  ) {}

  @Get('productions')
  @ApiOperation({ summary: 'Productions with their characters.' })
  async list(): Promise<ProductionView[]> {
    const [productions, characters] = await Promise.all([
      this.em.findAll(Production, { orderBy: { name: 'asc' } }),
      this.em.findAll(Character, { orderBy: { name: 'asc' } }),
    ]);
    return productions.map(({ id, name }) => ({
      id,
      name,
      characters: characters.filter((character) => character.production.id === id).map(characterView),
    }));
  }

  @Post('productions/:id/hand-offs')
  @ApiOperation({ summary: 'Makes what is wanted of several scenes, in one zip; answers with the job, whose result is the file.' })
  async handOff(@Param('id') id: string, @Body() dto: SeveralDto): Promise<JobView> {
    return jobView(await this.several.begin(id, dto));
  }

  @Post('productions')
  @ApiOperation({ summary: 'A new production, with nobody in it yet.' })
  async create(@Body() dto: ProductionDto): Promise<ProductionView> {
    const production = this.em.create(Production, {
      id: randomUUID(),
      name: await this.freeName(dto.name),
      pronunciations: [],
      feels: [],
      maps: [],
      limits: {},
    });
    this.em.persist(production);
    await this.em.flush();
    return { id: production.id, name: production.name, characters: [] };
  }

  @Put('productions/:id/name')
  @ApiOperation({ summary: 'Names a production otherwise.' })
  async rename(@Param('id') id: string, @Body() dto: ProductionDto): Promise<{ name: string }> {
    const production = await this.production(id);
    production.name = await this.freeName(dto.name, id);
    await this.em.flush();
    return { name: production.name };
  }

  @Delete('productions/:id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Removes a production with its scenes, its characters and their charts.' })
  async remove(@Param('id') id: string): Promise<void> {
    await this.em.transactional(async (em) => {
      const production = await em.findOne(Production, { id });
      if (!production) throw notThere('production');
      if ((await em.count(Production)) === 1)
        throw cannotUse(`“${production.name}” is the only production. Make another one first, or give this one another name.`);
      const characters = await em.find(Character, { production: id });
      await em.nativeDelete(Scene, { production: id });
      await em.nativeDelete(Character, { production: id });
      await em.nativeDelete(Chart, { characterId: { $in: characters.map((character) => character.id) } });
      await em.nativeDelete(Production, { id });
    });
  }

  @Delete('characters/:id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Removes a character and its charts. Refused while it speaks in a scene.' })
  async removeCharacter(@Param('id') id: string): Promise<void> {
    await this.em.transactional(async (em) => {
      const character = await em.findOne(Character, { id });
      if (!character) throw notThere('character');
      const scenes = await em.find(Scene, { production: character.production.id }, { populate: ['document'] });
      const speaksIn = scenes.filter(({ document }) =>
        [...(document.tracks ?? []), ...(document.clips ?? [])].some(({ characterId }) => characterId === id),
      );
      if (speaksIn.length > 0)
        throw cannotUse(
          `${character.name} speaks in ${speaksIn.map(({ title }) => `“${title}”`).join(', ')}. Let somebody else speak there, or remove the scene first.`,
        );
      await em.nativeDelete(Character, { id });
      await em.nativeDelete(Chart, { characterId: id });
    });
  }

  @Get('productions/:id/pronunciations')
  @ApiOperation({ summary: 'How a production says its own words, in the order of the words.' })
  async pronunciations(@Param('id') id: string): Promise<Pronunciation[]> {
    return (await this.production(id)).pronunciations;
  }

  @Put('productions/:id/pronunciations')
  @ApiOperation({ summary: 'Keeps a list of pronunciations in the place of the one that is there.' })
  async keepPronunciations(@Param('id') id: string, @Body() { entries }: PronunciationsDto): Promise<Pronunciation[]> {
    const production = await this.production(id);
    for (const entry of entries) {
      const fault = maybePronunciationFault(entry);
      if (fault) throw cannotUse(fault);
    }
    production.pronunciations = entries
      .map(({ word, said }) => ({ word: wordToLookUp(word), said: said.trim() }))
      .sort((a, b) => (a.word < b.word ? -1 : a.word > b.word ? 1 : 0));
    await this.em.flush();
    return production.pronunciations;
  }

  @Get('productions/:id/maps')
  @ApiOperation({ summary: 'The maps of sounds that a production keeps.' })
  async maps(@Param('id') id: string): Promise<SoundMap[]> {
    return (await this.production(id)).maps;
  }

  @Put('productions/:id/maps')
  @ApiOperation({ summary: 'Keeps a list of maps in the place of the one that is there; each is checked.' })
  async keepMaps(@Param('id') id: string, @Body() { maps }: MapsDto): Promise<SoundMap[]> {
    const production = await this.production(id);
    const read = maps.map((map) => readMap(JSON.stringify(map)));
    const refused = read.find(isRefusal);
    if (refused) throw cannotUse(refused.refusal);
    const kept = read as SoundMap[];
    const twice = kept.find(({ name }, index) => kept.findIndex((other) => other.name.toLowerCase() === name.toLowerCase()) !== index);
    if (twice) throw cannotUse(`There is a map “${twice.name}” already. Choose another name.`);
    production.maps = kept;
    await this.em.flush();
    return production.maps;
  }

  @Get('productions/:id/feels')
  @ApiOperation({ summary: 'The feels that a production keeps beside the usual ones.' })
  async feels(@Param('id') id: string): Promise<Feel[]> {
    return (await this.production(id)).feels;
  }

  @Put('productions/:id/feels')
  @ApiOperation({ summary: 'Keeps a list of feels in the place of the one that is there.' })
  async keepFeels(@Param('id') id: string, @Body() { feels }: FeelsDto): Promise<Feel[]> {
    const production = await this.production(id);
    const [fault] = checkFeels(feels);
    if (fault) throw cannotUse(fault);
    production.feels = feels.map(({ name, look, rules }) => ({ name: name.trim(), look, rules: fullRules(rules) }));
    await this.em.flush();
    return production.feels;
  }

  @Post('productions/:id/checks')
  @HttpCode(200)
  @ApiOperation({ summary: 'Checks the next scene that was not checked since it was changed; answers how many are left.' })
  check(@Param('id') id: string): Promise<{ left: number }> {
    return this.checks.checkNext(id);
  }

  @Get('productions/:id/limits')
  @ApiOperation({ summary: 'What the checker allows in a production, where it is otherwise than the feels have it.' })
  async limits(@Param('id') id: string): Promise<Partial<CheckLimits>> {
    return (await this.production(id)).limits;
  }

  @Put('productions/:id/limits')
  @ApiOperation({ summary: 'Says what the checker allows; what is left out is as the feel of a lane has it.' })
  async keepLimits(@Param('id') id: string, @Body() { limits }: LimitsDto): Promise<Partial<CheckLimits>> {
    const production = await this.production(id);
    const [fault] = checkLimits(limits as Partial<CheckLimits>);
    if (fault) throw cannotUse(fault);
    production.limits = limits as Partial<CheckLimits>;
    // What was counted was counted by others.
    await this.em.nativeUpdate(Scene, { production: id }, { notes: null });
    await this.em.flush();
    return production.limits;
  }

  @Put('characters/:id/accent')
  @ApiOperation({ summary: 'Says how a character speaks English; its clips read from now on are read so.' })
  async keepAccent(@Param('id') id: string, @Body() accent: AccentDto): Promise<CharacterView> {
    const character = await this.em.findOne(Character, { id });
    if (!character) throw notThere('character');
    character.accent = { ...accent };
    await this.em.flush();
    return characterView(character);
  }

  /** A name that no other production has, trimmed. */
  private async freeName(wanted: string, ownId?: string): Promise<string> {
    const name = wanted.trim();
    if (name === '') throw cannotUse('A production needs a name.');
    const other = await this.em.findOne(Production, { name });
    if (other && other.id !== ownId) throw cannotUse(`There is a production “${name}” already. Choose another name.`);
    return name;
  }

  private async production(id: string): Promise<Production> {
    const production = await this.em.findOne(Production, { id });
    if (!production) throw notThere('production');
    return production;
  }
}
