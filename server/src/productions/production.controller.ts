import { EntityManager } from '@mikro-orm/libsql';
import { Controller, Get } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { CharacterView, ProductionView } from '@zest-jaw/core';
import { Character, Production } from '../storage/entities.js';

export function characterView(character: Character): CharacterView {
  const { id, name, chart } = character;
  return { id, name, chartId: chart.id };
}

@ApiTags('productions')
@Controller('productions')
export class ProductionController {
  constructor(private readonly em: EntityManager) {}

  @Get()
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
}
