import { EntityManager } from '@mikro-orm/libsql';
import { Body, Controller, Get, Param, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import {
  checkFeels,
  fullRules,
  maybePronunciationFault,
  wordToLookUp,
  type CharacterView,
  type Feel,
  type ProductionView,
  type Pronunciation,
} from '@zest-jaw/core';
import { cannotUse, notThere } from '../guard/problem.js';
import { Character, Production } from '../storage/entities.js';
import { AccentDto, FeelsDto, PronunciationsDto } from './production.dto.js';

export function characterView(character: Character): CharacterView {
  const { id, name, chart, accent } = character;
  return { id, name, chartId: chart.id, accent };
}

@ApiTags('productions')
@Controller()
export class ProductionController {
  constructor(private readonly em: EntityManager) {}

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

  @Put('characters/:id/accent')
  @ApiOperation({ summary: 'Says how a character speaks English; its clips read from now on are read so.' })
  async keepAccent(@Param('id') id: string, @Body() accent: AccentDto): Promise<CharacterView> {
    const character = await this.em.findOne(Character, { id });
    if (!character) throw notThere('character');
    character.accent = { ...accent };
    await this.em.flush();
    return characterView(character);
  }

  private async production(id: string): Promise<Production> {
    const production = await this.em.findOne(Production, { id });
    if (!production) throw notThere('production');
    return production;
  }
}
