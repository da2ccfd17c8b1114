/** What the database keeps. Scenes and charts are documents; the rest is plain rows. */
import { Entity, Enum, Index, ManyToOne, PrimaryKey, Property, Unique } from '@mikro-orm/core';
import {
  JOB_STATES,
  PLAIN_ACCENT,
  type Accent,
  type ChartDocument,
  type CheckLimits,
  type JobState,
  type NoteCounts,
  type PassFacts,
  type Patch,
  type Feel,
  type Pronunciation,
  type SceneCard,
  type SceneDocument,
  type Reading,
  type ShootingState,
  type SoundMap,
} from '@zest-jaw/core';

@Entity()
export class Production {
  @PrimaryKey({ type: 'string' })
  id!: string;

  @Property({ type: 'string' })
  name!: string;

  /** How its names and made-up words are said. */
  @Property({ type: 'json' })
  pronunciations: Pronunciation[] = [];

  /** Sets of keying rules of its own. */
  @Property({ type: 'json' })
  feels: Feel[] = [];

  /** Maps of sounds, by name, to be put on its charts. */
  @Property({ type: 'json' })
  maps: SoundMap[] = [];

  /** What the checker allows, where it is otherwise than the feels have it. */
  @Property({ type: 'json' })
  limits: Partial<CheckLimits> = {};
}

/** What of a scene's card its document says. */
export type KeptCard = Omit<SceneCard, 'id' | 'productionId' | 'title' | 'touchedAt' | 'notes'>;

/** A file by its content: recordings, originals, pictures of mouths and heads. */
@Entity()
export class Asset {
  /** SHA-256 of the bytes, in hex. */
  @PrimaryKey({ type: 'string' })
  hash!: string;

  @Property({ type: 'string' })
  mediaType!: string;

  @Property({ type: 'string' })
  fileName!: string;

  @Property({ type: 'blob', lazy: true })
  bytes!: Buffer;

  /** Since when nothing refers to it; null while something does, or nobody has looked. */
  @Property({ type: 'datetime', nullable: true })
  unusedSince: Date | null = null;
}

@Entity()
export class Chart {
  @PrimaryKey({ type: 'string' })
  id!: string;

  /** Whose mouths these are, by id. Not a relation: a character and its first chart come to be together. */
  @Index()
  @Property({ type: 'string' })
  characterId!: string;

  @Property({ type: 'string' })
  name!: string;

  @Property({ type: 'json' })
  document!: ChartDocument;

  @Property({ type: 'integer' })
  revision: number = 0;
}

@Entity()
export class Character {
  @PrimaryKey({ type: 'string' })
  id!: string;

  @ManyToOne(() => Production)
  production!: Production;

  /** The chart that new scenes begin with; it has others besides. */
  @ManyToOne(() => Chart)
  chart!: Chart;

  @Property({ type: 'string' })
  name!: string;

  /** How it speaks English. */
  @Property({ type: 'json' })
  accent: Accent = PLAIN_ACCENT;
}

@Entity()
export class Scene {
  @PrimaryKey({ type: 'string' })
  id!: string;

  @ManyToOne(() => Production)
  production!: Production;

  /** The title of the document, kept here for lists. */
  @Property({ type: 'string' })
  title!: string;

  @Property({ type: 'json', lazy: true })
  document!: SceneDocument;

  /** What lists show of the document; null in a database from before it was kept, until it is asked for. */
  @Property({ type: 'json', nullable: true })
  card: KeptCard | null = null;

  /** The charts its mouths are on: a list of ids as JSON, looked into as text. */
  @Property({ type: 'text', nullable: true })
  charts: string | null = null;

  /** How far each of its lanes is shot, by track. Not of the document: a shoot changes nothing of the scene. */
  @Property({ type: 'json', lazy: true })
  shooting: Record<string, ShootingState> = {};

  /** What the checker found of it, and of which revision; null before it was checked. */
  @Property({ type: 'json', nullable: true })
  notes: NoteCounts | null = null;

  @Property({ type: 'integer' })
  revision: number = 0;

  @Property({ type: 'datetime' })
  createdAt: Date = new Date();

  @Property({ type: 'datetime' })
  touchedAt: Date = new Date();
}

/** One patch applied to a document, and the revision it made. History is these rows: complete, and in order. */
@Entity({ abstract: true })
export abstract class RevisionRow {
  @PrimaryKey({ type: 'integer', autoincrement: true })
  id!: number;

  @Property({ type: 'integer' })
  revision!: number;

  @Property({ type: 'string' })
  patchId!: string;

  @Property({ type: 'json' })
  patch!: Patch;

  @Property({ type: 'datetime' })
  at: Date = new Date();

  /** Who made it, by the name given at signing in; null where nobody signs in, and for what the server did. */
  @Property({ type: 'string', nullable: true })
  by: string | null = null;
}

/** One patch applied to a scene. */
@Entity()
@Unique({ properties: ['scene', 'patchId'] })
@Unique({ properties: ['scene', 'revision'] })
export class Revision extends RevisionRow {
  @ManyToOne(() => Scene, { deleteRule: 'cascade' })
  scene!: Scene;
}

/** One patch applied to a chart. */
@Entity()
@Unique({ properties: ['chart', 'patchId'] })
@Unique({ properties: ['chart', 'revision'] })
export class ChartRevision extends RevisionRow {
  @ManyToOne(() => Chart, { deleteRule: 'cascade' })
  chart!: Chart;
}

/** Long work: reading a recording, rendering pictures, taking pictures in. */
@Entity()
export class Job {
  @PrimaryKey({ type: 'string' })
  id!: string;

  @Property({ type: 'string' })
  kind!: string;

  /** The scene it works on; none for an import of pictures. */
  @ManyToOne(() => Scene, { deleteRule: 'cascade', nullable: true })
  @Index()
  scene!: Scene | null;

  /** What was asked for, as the kind of job needs it. */
  @Property({ type: 'json' })
  request!: Record<string, unknown>;

  @Enum({ items: () => JOB_STATES, type: 'string' })
  state: JobState = 'waiting';

  /** Share done, 0 to 1. */
  @Property({ type: 'float' })
  done: number = 0;

  /** What is being done, or how it ended, for the user. */
  @Property({ type: 'string', length: 2000 })
  message: string = '';

  @Property({ type: 'json' })
  warnings: string[] = [];

  /** How often it was begun without an end to it that the program saw. */
  @Property({ type: 'integer' })
  attempts: number = 0;

  /** What it read is kept until somebody has taken or left it. */
  @Property({ type: 'boolean' })
  offers: boolean = false;

  /** What is offered. */
  @Property({ type: 'json', lazy: true, nullable: true })
  reading: Reading | null = null;

  @Property({ type: 'datetime' })
  createdAt: Date = new Date();
}

/** A picture that a camera took of a lane. One that is taken again stays, behind the newer. */
@Entity()
@Index({ properties: ['scene', 'shoot'] })
export class ShotPicture {
  @PrimaryKey({ type: 'integer', autoincrement: true })
  id!: number;

  @ManyToOne(() => Scene, { deleteRule: 'cascade' })
  scene!: Scene;

  /** The lane, and whether the camera is on twos. */
  @Property({ type: 'string' })
  shoot!: string;

  /** Which picture of the lane, from 0. */
  @Property({ type: 'integer' })
  picture!: number;

  /** The file, by the hash of its content. */
  @Property({ type: 'string' })
  asset!: string;

  /** The mouth that was asked for; null where none was. */
  @Property({ type: 'string', nullable: true })
  chartId: string | null = null;

  @Property({ type: 'string', nullable: true })
  drawing: string | null = null;

  @Property({ type: 'boolean' })
  practice: boolean = false;

  @Property({ type: 'datetime' })
  at: Date = new Date();
}

/** A saved state of a scene, by name. It never changes; one that is removed can be brought back. */
@Entity()
export class Pass {
  @PrimaryKey({ type: 'string' })
  id!: string;

  @ManyToOne(() => Scene, { deleteRule: 'cascade' })
  @Index()
  scene!: Scene;

  @Property({ type: 'string' })
  name!: string;

  /** What it is for, a line. */
  @Property({ type: 'string', length: 2000 })
  why: string = '';

  /** Kept before something large, not by a hand. */
  @Property({ type: 'boolean' })
  byItself: boolean = false;

  @Property({ type: 'boolean' })
  removed: boolean = false;

  /** That of the scene it was kept of. */
  @Property({ type: 'integer' })
  revision: number = 0;

  @Property({ type: 'json', lazy: true })
  document!: SceneDocument;

  /** What lists show of it. */
  @Property({ type: 'json' })
  facts!: PassFacts;

  @Property({ type: 'datetime' })
  at: Date = new Date();
}

/** What a room signs in with: one row, or none where no room was ever served. */
@Entity()
export class RoomPassphrase {
  @PrimaryKey({ type: 'integer' })
  id: number = 1;

  @Property({ type: 'string' })
  hash!: string;
}

/** A browser that has signed in. */
@Entity()
export class RoomSession {
  @PrimaryKey({ type: 'string' })
  id!: string;

  /** SHA-256 of what its cookie carries. */
  @Property({ type: 'string' })
  @Unique()
  tokenHash!: string;

  /** Who sits there, as they call themselves. */
  @Property({ type: 'string' })
  name!: string;

  /** Came by a link: looks, shoots, and says what it sees. */
  @Property({ type: 'boolean' })
  isGuest: boolean = false;

  @Property({ type: 'datetime' })
  createdAt: Date = new Date();

  @Property({ type: 'datetime' })
  seenAt: Date = new Date();
}

/** A link by which a device comes in without the passphrase, to look and to shoot. */
@Entity()
export class RoomLink {
  @PrimaryKey({ type: 'string' })
  id!: string;

  /** SHA-256 of what the link carries. */
  @Property({ type: 'string' })
  @Unique()
  codeHash!: string;

  /** For whom it is. */
  @Property({ type: 'string' })
  name!: string;

  @Property({ type: 'datetime' })
  createdAt: Date = new Date();
}

export const ENTITIES = [
  Production,
  Asset,
  Chart,
  Character,
  Scene,
  Revision,
  ChartRevision,
  Job,
  ShotPicture,
  Pass,
  RoomPassphrase,
  RoomSession,
  RoomLink,
];
