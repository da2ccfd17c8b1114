/** The database's history. A migration that has been released is never changed; add another. */
import { Migration } from '@mikro-orm/migrations';
import {
  PLAIN_ACCENT,
  upgradeChart,
  upgradeDrawing,
  type ChartHead,
  type Clip,
  type Patch,
  type PutOp,
  type SceneDocument,
} from '@zest-jaw/core';

export class Migration20261125Begin extends Migration {
  override up(): void {
    this.addSql('create table `production` (`id` text not null primary key, `name` text not null);');
    this.addSql(
      'create table `asset` (`hash` text not null primary key, `media_type` text not null, `file_name` text not null, `bytes` blob not null);',
    );
    this.addSql(
      'create table `chart` (`id` text not null primary key, `name` text not null, `document` json not null, `revision` integer not null default 0);',
    );
    this.addSql(
      'create table `character` (`id` text not null primary key, `production_id` text not null references `production` (`id`), `chart_id` text not null references `chart` (`id`), `name` text not null, `head_hash` text not null references `asset` (`hash`), `head_width` integer not null, `head_height` integer not null, `mouth` json not null, `backdrop` json not null);',
    );
    this.addSql(
      'create table `scene` (`id` text not null primary key, `production_id` text not null references `production` (`id`), `title` text not null, `document` json not null, `revision` integer not null default 0, `created_at` datetime not null, `touched_at` datetime not null);',
    );
    this.addSql(
      'create table `revision` (`id` integer not null primary key autoincrement, `scene_id` text not null references `scene` (`id`) on delete cascade, `revision` integer not null, `patch_id` text not null, `patch` json not null, `at` datetime not null);',
    );
    this.addSql('create unique index `revision_scene_patch` on `revision` (`scene_id`, `patch_id`);');
    this.addSql('create unique index `revision_scene_revision` on `revision` (`scene_id`, `revision`);');
    this.addSql(
      'create table `job` (`id` text not null primary key, `kind` text not null, `scene_id` text not null references `scene` (`id`) on delete cascade, `request` json not null, `state` text not null, `done` real not null default 0, `message` text not null, `warnings` json not null, `created_at` datetime not null);',
    );
    this.addSql('create index `job_scene` on `job` (`scene_id`);');
  }

  override down(): void {
    for (const table of ['job', 'revision', 'scene', 'character', 'chart', 'asset', 'production']) this.addSql(`drop table \`${table}\`;`);
  }
}

export class Migration20261125ChartRevisions extends Migration {
  override up(): void {
    this.addSql(
      'create table `chart_revision` (`id` integer not null primary key autoincrement, `chart_id` text not null references `chart` (`id`) on delete cascade, `revision` integer not null, `patch_id` text not null, `patch` json not null, `at` datetime not null);',
    );
    this.addSql('create unique index `chart_revision_chart_patch` on `chart_revision` (`chart_id`, `patch_id`);');
    this.addSql('create unique index `chart_revision_chart_revision` on `chart_revision` (`chart_id`, `revision`);');
  }

  override down(): void {
    this.addSql('drop table `chart_revision`;');
  }
}

/** A chart's patch with its drawings as they are kept now. */
function withDrawingsUpgraded(patch: string): Patch {
  const { ops, ...rest } = JSON.parse(patch) as Patch;
  const upgrade = (record: PutOp['before']): PutOp['before'] => record && upgradeDrawing(record as Parameters<typeof upgradeDrawing>[0]);
  return {
    ...rest,
    ops: ops.map((op) =>
      op.op === 'put' && op.table === 'drawings' ? { ...op, before: upgrade(op.before), after: upgrade(op.after) } : op,
    ),
  };
}

interface OldCharacter {
  readonly id: string;
  readonly chart_id: string;
  readonly head_hash: string;
  readonly head_width: number;
  readonly head_height: number;
  readonly mouth: string;
  readonly backdrop: string;
}

/** Mouths of three kinds; the head belongs to the chart, a chart to its character; jobs without a scene. */
export class Migration20261126ChartsOfCharacters extends Migration {
  override async up(): Promise<void> {
    const characters = (await this.execute('select * from `character`')) as OldCharacter[];
    const charts = (await this.execute('select `id`, `document` from `chart`')) as { id: string; document: string }[];
    const revisions = (await this.execute('select `id`, `patch` from `chart_revision`')) as { id: number; patch: string }[];
    await this.execute("alter table `chart` add column `character_id` text not null default ''");
    for (const { id, document } of charts) {
      const owner = characters.find((character) => character.chart_id === id);
      const head: ChartHead | undefined = owner && {
        id: 'head',
        art: { kind: 'picture', picture: owner.head_hash },
        width: owner.head_width,
        height: owner.head_height,
        mouth: JSON.parse(owner.mouth) as ChartHead['mouth'],
        backdrop: JSON.parse(owner.backdrop) as string[],
      };
      const upgraded = upgradeChart(JSON.parse(document) as Parameters<typeof upgradeChart>[0], head);
      await this.execute('update `chart` set `document` = ?, `character_id` = ? where `id` = ?', [
        JSON.stringify(upgraded),
        owner?.id ?? '',
        id,
      ]);
    }
    for (const { id, patch } of revisions) {
      await this.execute('update `chart_revision` set `patch` = ? where `id` = ?', [JSON.stringify(withDrawingsUpgraded(patch)), id]);
    }
    for (const sql of [
      'create index `chart_character` on `chart` (`character_id`)',
      'create table `character_now` (`id` text not null primary key, `production_id` text not null references `production` (`id`), `chart_id` text not null references `chart` (`id`), `name` text not null)',
      'insert into `character_now` select `id`, `production_id`, `chart_id`, `name` from `character`',
      'drop table `character`',
      'alter table `character_now` rename to `character`',
      'create table `job_now` (`id` text not null primary key, `kind` text not null, `scene_id` text null references `scene` (`id`) on delete cascade, `request` json not null, `state` text not null, `done` real not null default 0, `message` text not null, `warnings` json not null, `created_at` datetime not null)',
      'insert into `job_now` select * from `job`',
      'drop table `job`',
      'alter table `job_now` rename to `job`',
      'create index `job_scene` on `job` (`scene_id`)',
    ])
      await this.execute(sql);
  }
}

/** A track may change its chart inside a scene. */
export class Migration20261126Views extends Migration {
  override up(): void {
    this.addSql(
      "update `scene` set `document` = json_set(`document`, '$.views', json('[]')) where json_type(`document`, '$.views') is null;",
    );
  }
}

/** What was heard is written down beside what was read. */
export class Migration20261126EarMarks extends Migration {
  override up(): void {
    this.addSql(
      "update `scene` set `document` = json_set(`document`, '$.marks', json('[]')) where json_type(`document`, '$.marks') is null;",
    );
  }
}

type OldClip = Omit<Clip, 'fromSample' | 'toSample' | 'gainDb' | 'muted' | 'soloed' | 'readOf'>;

/** Clips are trimmed, raised and lowered, muted and soloed, and know which take their reading is of. */
export class Migration20261127Clips extends Migration {
  override async up(): Promise<void> {
    const upgraded = (clip: OldClip): Clip => ({
      fromSample: 0,
      toSample: clip.lengthSamples,
      gainDb: 0,
      muted: false,
      soloed: false,
      readOf: clip.audio,
      ...clip,
    });
    const scenes = (await this.execute('select `id`, `document` from `scene`')) as { id: string; document: string }[];
    for (const { id, document } of scenes) {
      const scene = JSON.parse(document) as SceneDocument & { clips: OldClip[] };
      const clips = scene.clips.map(upgraded);
      await this.execute('update `scene` set `document` = ? where `id` = ?', [JSON.stringify({ ...scene, clips }), id]);
    }
    const revisions = (await this.execute('select `id`, `patch` from `revision` where `patch` like \'%"clips"%\'')) as {
      id: number;
      patch: string;
    }[];
    for (const { id, patch } of revisions) {
      const { ops, ...rest } = JSON.parse(patch) as Patch;
      const upgrade = (record: PutOp['before']): PutOp['before'] => record && upgraded(record as OldClip);
      const clipOps = ops.map((op) =>
        op.op === 'put' && op.table === 'clips' ? { ...op, before: upgrade(op.before), after: upgrade(op.after) } : op,
      );
      await this.execute('update `revision` set `patch` = ? where `id` = ?', [JSON.stringify({ ...rest, ops: clipOps }), id]);
    }
  }
}

/** Productions keep pronunciations, characters an accent. */
export class Migration20261128Speech extends Migration {
  override up(): void {
    this.addSql("alter table `production` add column `pronunciations` json not null default '[]';");
    this.addSql(`alter table \`character\` add column \`accent\` json not null default '${JSON.stringify(PLAIN_ACCENT)}';`);
  }
}

/** Productions keep feels of their own. */
export class Migration20261129Feels extends Migration {
  override up(): void {
    this.addSql("alter table `production` add column `feels` json not null default '[]';");
  }
}

/** Drawings have places of their own beside their numbers. */
export class Migration20261201Places extends Migration {
  override async up(): Promise<void> {
    const charts = (await this.execute('select `id`, `document` from `chart`')) as { id: string; document: string }[];
    for (const { id, document } of charts) {
      const chart = upgradeChart(JSON.parse(document) as Parameters<typeof upgradeChart>[0]);
      await this.execute('update `chart` set `document` = ? where `id` = ?', [JSON.stringify(chart), id]);
    }
    const revisions = (await this.execute('select `id`, `patch` from `chart_revision`')) as { id: number; patch: string }[];
    for (const { id, patch } of revisions)
      await this.execute('update `chart_revision` set `patch` = ? where `id` = ?', [JSON.stringify(withDrawingsUpgraded(patch)), id]);
  }
}

/** Scenes keep what lists show of them, and which charts they are on. */
export class Migration20261203Cards extends Migration {
  override async up(): Promise<void> {
    await this.execute('alter table `scene` add column `card` json null');
    await this.execute('alter table `scene` add column `charts` text null');
    const scenes = (await this.execute('select `id`, `document` from `scene`')) as { id: string; document: string }[];
    for (const { id, document } of scenes) {
      const { tracks = [], views = [] } = JSON.parse(document) as Partial<Record<'tracks' | 'views', { chartId: string }[]>>;
      const charts = JSON.stringify([...new Set([...tracks, ...views].map(({ chartId }) => chartId))]);
      await this.execute('update `scene` set `charts` = ? where `id` = ?', [charts, id]);
    }
  }
}

/** Scenes have mouths of their own. */
export class Migration20261204OneOffs extends Migration {
  override up(): void {
    this.addSql(
      "update `scene` set `document` = json_set(`document`, '$.oneOffs', json('[]')) where json_type(`document`, '$.oneOffs') is null;",
    );
  }
}

/** A reading made again is offered before it is taken. */
export class Migration20261205Offers extends Migration {
  override up(): void {
    this.addSql('alter table `job` add column `offers` integer not null default false;');
    this.addSql('alter table `job` add column `reading` json null;');
  }
}

/** Productions keep maps of sounds. */
export class Migration20261206Maps extends Migration {
  override up(): void {
    this.addSql("alter table `production` add column `maps` json not null default '[]';");
  }
}

/** Scenes keep how far each of their lanes is shot. */
export class Migration20261207Shooting extends Migration {
  override up(): void {
    this.addSql("alter table `scene` add column `shooting` json not null default '{}';");
  }
}

/** What a camera took of a lane is kept. */
export class Migration20261208Shots extends Migration {
  override up(): void {
    this.addSql(
      'create table `shot_picture` (`id` integer not null primary key autoincrement, `scene_id` text not null references `scene` (`id`) on delete cascade, `shoot` text not null, `picture` integer not null, `asset` text not null, `chart_id` text null, `drawing` text null, `practice` integer not null default false, `at` datetime not null);',
    );
    this.addSql('create index `shot_picture_scene_id_shoot_index` on `shot_picture` (`scene_id`, `shoot`);');
  }
}

/** Scenes keep notes that were set aside, and remarks; productions what the checker allows; scenes their passes. */
export class Migration20261209Check extends Migration {
  override up(): void {
    for (const table of ['asides', 'remarks'])
      this.addSql(
        `update \`scene\` set \`document\` = json_set(\`document\`, '$.${table}', json('[]')) where json_type(\`document\`, '$.${table}') is null;`,
      );
    this.addSql("alter table `production` add column `limits` json not null default '{}';");
    this.addSql('alter table `scene` add column `notes` json null;');
    this.addSql(
      'create table `pass` (`id` text not null primary key, `scene_id` text not null references `scene` (`id`) on delete cascade, `name` text not null, `why` text not null, `by_itself` integer not null default false, `removed` integer not null default false, `revision` integer not null, `document` json not null, `facts` json not null, `at` datetime not null);',
    );
    this.addSql('create index `pass_scene_id_index` on `pass` (`scene_id`);');
  }
}

/** Scenes keep where things are over time. */
export class Migration20261210PlacesOverTime extends Migration {
  override up(): void {
    for (const table of ['scene', 'pass'])
      this.addSql(
        `update \`${table}\` set \`document\` = json_set(\`document\`, '$.places', json('[]')) where json_type(\`document\`, '$.places') is null;`,
      );
  }
}

/** How often work was begun, and since when a file is not used. */
export class Migration20261211Clearing extends Migration {
  override up(): void {
    this.addSql('alter table `job` add column `attempts` integer not null default 0;');
    this.addSql('alter table `asset` add column `unused_since` datetime null;');
  }
}

/** A server that a room shares: what it signs in with, who has, and who made a change. */
export class Migration20261212Room extends Migration {
  override up(): void {
    for (const table of ['revision', 'chart_revision']) this.addSql(`alter table \`${table}\` add column \`by\` text null;`);
    this.addSql('create table `room_passphrase` (`id` integer not null primary key, `hash` text not null);');
    this.addSql(
      'create table `room_session` (`id` text not null primary key, `token_hash` text not null unique, `name` text not null, `is_guest` integer not null default false, `created_at` datetime not null, `seen_at` datetime not null);',
    );
    this.addSql(
      'create table `room_link` (`id` text not null primary key, `code_hash` text not null unique, `name` text not null, `created_at` datetime not null);',
    );
  }
}

export const MIGRATIONS = [
  { name: '20261125-begin', class: Migration20261125Begin },
  { name: '20261125-chart-revisions', class: Migration20261125ChartRevisions },
  { name: '20261126-charts-of-characters', class: Migration20261126ChartsOfCharacters },
  { name: '20261126-views', class: Migration20261126Views },
  { name: '20261126-ear-marks', class: Migration20261126EarMarks },
  { name: '20261127-clips', class: Migration20261127Clips },
  { name: '20261128-speech', class: Migration20261128Speech },
  { name: '20261129-feels', class: Migration20261129Feels },
  { name: '20261201-places', class: Migration20261201Places },
  { name: '20261203-cards', class: Migration20261203Cards },
  { name: '20261204-one-offs', class: Migration20261204OneOffs },
  { name: '20261205-offers', class: Migration20261205Offers },
  { name: '20261206-maps', class: Migration20261206Maps },
  { name: '20261207-shooting', class: Migration20261207Shooting },
  { name: '20261208-shots', class: Migration20261208Shots },
  { name: '20261209-check', class: Migration20261209Check },
  { name: '20261210-places-over-time', class: Migration20261210PlacesOverTime },
  { name: '20261211-clearing', class: Migration20261211Clearing },
  { name: '20261212-room', class: Migration20261212Room },
];
