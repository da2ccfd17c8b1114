/** The database's history. A migration that has been released is never changed; add another. */
import { Migration } from '@mikro-orm/migrations';

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

export const MIGRATIONS = [
  { name: '20261125-begin', class: Migration20261125Begin },
  { name: '20261125-chart-revisions', class: Migration20261125ChartRevisions },
];
