import { MikroOrmModule } from '@mikro-orm/nestjs';
import { DynamicModule, Module } from '@nestjs/common';
import { MulterModule } from '@nestjs/platform-express';
import { join } from 'node:path';
import { AssetController } from './assets/asset.controller.js';
import { AssetStore } from './assets/asset.store.js';
import { ChartController } from './charts/chart.controller.js';
import { ChartStore } from './charts/chart.store.js';
import { NewChartService } from './charts/newChart.service.js';
import { DEMO_FOLDER, DemoService } from './demo/demo.service.js';
import { BundleController } from './handOff/bundle.controller.js';
import { BundleService } from './handOff/bundle.service.js';
import { HandOffService } from './handOff/handOff.service.js';
import { EXPORT_FOLDER, PictureService } from './handOff/picture.service.js';
import { SeveralService } from './handOff/several.service.js';
import { ImportController } from './imports/import.controller.js';
import { IMPORT_FOLDER, ImportService } from './imports/import.service.js';
import { JobController } from './jobs/job.controller.js';
import { JobService } from './jobs/job.service.js';
import { CheckService } from './passes/check.service.js';
import { PassController } from './passes/pass.controller.js';
import { ProductionController } from './productions/production.controller.js';
import { RecordingController } from './recordings/recording.controller.js';
import { RECORDING_FOLDER, RecordingService } from './recordings/recording.service.js';
import { CompanyService } from './room/company.service.js';
import { IS_ENCRYPTED, RoomController } from './room/room.controller.js';
import { IS_ROOM, RoomService } from './room/room.service.js';
import { DocumentChanges } from './documents/changes.js';
import { ReadingService } from './scenes/reading.service.js';
import { SceneController } from './scenes/scene.controller.js';
import { SceneStore } from './scenes/scene.store.js';
import { SceneUploadService } from './scenes/sceneUpload.service.js';
import { ShootingController } from './stage/shooting.controller.js';
import { ClearingService, WORK_FOLDERS, type WorkFolders } from './storage/clearing.service.js';
import { DATABASE_FILE, databaseOptions, FoldedLog } from './storage/database.js';
import { Helpers, HELPERS } from './workers/helpers.js';
import { WorkerPool } from './workers/workerPool.js';

export interface AppOptions {
  /** Folder of the database and of finished exports. */
  readonly dataFolder: string;
  readonly demoFolder: string;
  /** The database's file or its address, where it is not the file of the data folder. */
  readonly database?: string | undefined;
  /** Readings and renders wait for helpers, in a queue of the server database. */
  readonly hasHelpers?: boolean | undefined;
  /** A room shares it: people sign in. */
  readonly isRoom?: boolean;
  /** What goes over the network is encrypted. */
  readonly isEncrypted?: boolean;
}

@Module({})
export class AppModule {
  static with({
    dataFolder,
    demoFolder,
    database = join(dataFolder, DATABASE_FILE),
    hasHelpers = false,
    isRoom = false,
    isEncrypted = false,
  }: AppOptions): DynamicModule {
    const folders: WorkFolders = {
      exports: join(dataFolder, 'exports'),
      imports: join(dataFolder, 'imports'),
      recordings: join(dataFolder, 'recordings'),
      arriving: join(dataFolder, 'arriving'),
    };
    return {
      module: AppModule,
      imports: [
        MikroOrmModule.forRoot(databaseOptions(database)),
        // Uploads land there for the length of a request.
        MulterModule.register({ dest: folders.arriving }),
      ],
      controllers: [
        AssetController,
        BundleController,
        ChartController,
        ImportController,
        JobController,
        PassController,
        ProductionController,
        RecordingController,
        RoomController,
        SceneController,
        ShootingController,
      ],
      providers: [
        AssetStore,
        BundleService,
        ChartStore,
        CheckService,
        ClearingService,
        CompanyService,
        DemoService,
        DocumentChanges,
        FoldedLog,
        HandOffService,
        ImportService,
        JobService,
        NewChartService,
        PictureService,
        ReadingService,
        RecordingService,
        RoomService,
        SceneStore,
        SceneUploadService,
        SeveralService,
        WorkerPool,
        { provide: EXPORT_FOLDER, useValue: folders.exports },
        { provide: IMPORT_FOLDER, useValue: folders.imports },
        { provide: RECORDING_FOLDER, useValue: folders.recordings },
        { provide: WORK_FOLDERS, useValue: folders },
        { provide: HELPERS, useValue: hasHelpers ? new Helpers(dataFolder, database) : null },
        { provide: DEMO_FOLDER, useValue: demoFolder },
        { provide: IS_ROOM, useValue: isRoom },
        { provide: IS_ENCRYPTED, useValue: isEncrypted },
      ],
    };
  }
}
