/** Puts the application together: database ready, guards on, demo loaded, interface served. */
import { MikroORM, RequestContext } from '@mikro-orm/core';
import { ValidationPipe } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import cookieParser from 'cookie-parser';
import express, { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { AppModule, AppOptions } from './app.module.js';
import { DemoService } from './demo/demo.service.js';
import { whoMay } from './guard/whoMay.middleware.js';
import { reasonable, refuseDeep } from './guard/reasonable.js';
import { ProblemFilter } from './guard/problem.filter.js';
import { JobService } from './jobs/job.service.js';
import { atTheDoor, cookieName } from './room/atTheDoor.middleware.js';
import { RoomService } from './room/room.service.js';
import { RoomLogger, toldOfRoom } from './room/told.js';
import { slowly } from './room/slowly.js';
import { Helpers, HELPERS } from './workers/helpers.js';
import { WorkerPool } from './workers/workerPool.js';
import { MAX_BODY } from './scenes/limits.js';
import { ClearingService } from './storage/clearing.service.js';
import { checkDatabaseFile, DamagedDatabase, DATABASE_FILE, prepareDatabase, withFileSaid } from './storage/database.js';
import { onlyLooking } from './guard/onlyLooking.js';
import { isServerDatabase, withServerSaid } from './storage/serverDatabase.js';
import { rescue, rescuedFileOf, sentenceOfRescue } from './storage/rescue.js';

export interface OpenOptions extends AppOptions {
  /** Folder of the built interface; nothing is served from it when it is not there. */
  readonly webFolder: string;
  readonly quiet?: boolean;
  /** Further addresses and names it answers to. */
  readonly hosts?: readonly string[];
}

const contentPolicy = {
  useDefaults: false,
  directives: {
    'default-src': ["'self'"],
    'script-src': ["'self'", "'wasm-unsafe-eval'"],
    'style-src': ["'self'", "'unsafe-inline'"],
    'img-src': ["'self'", 'data:', 'blob:'],
    'media-src': ["'self'", 'blob:'],
    'worker-src': ["'self'", 'blob:'],
    'font-src': ["'self'"],
    'connect-src': ["'self'"],
    'object-src': ["'none'"],
    'base-uri': ["'self'"],
    'form-action': ["'self'"],
    'frame-ancestors': ["'none'"],
  },
};

/** Files of the interface; its page answers only what asks for HTML, so that a missing file stays missing. */
function serveInterface(app: NestExpressApplication, folder: string): void {
  if (!existsSync(join(folder, 'index.html'))) return;
  app.use('/assets', express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
  app.use(express.static(folder, { index: false }));
  app.use((request: Request, response: Response, next: NextFunction) => {
    const wantsPage = request.method === 'GET' && !request.path.startsWith('/api') && (request.headers.accept ?? '').includes('text/html');
    if (wantsPage) response.sendFile('index.html', { root: folder, headers: { 'Cache-Control': 'no-cache' } });
    else next();
  });
}

/**
 * Opens the application on its data. Where that is damaged, what can be read of it is shown, and nothing is changed.
 *
 * @throws a sentence where nothing can be read
 */
export async function openApp(options: OpenOptions): Promise<NestExpressApplication> {
  mkdirSync(options.dataFolder, { recursive: true });
  const { database } = options;
  if (database !== undefined && isServerDatabase(database))
    return openOn(options).catch((error: unknown) => {
      throw withServerSaid(error, database);
    });
  const file = join(options.dataFolder, DATABASE_FILE);
  try {
    checkDatabaseFile(file);
    return await openOn(options);
  } catch (error) {
    if (!(error instanceof DamagedDatabase)) throw error;
    const rescued = rescue(file, rescuedFileOf(options.dataFolder, file));
    if (!rescued) throw error;
    return openOn({ ...options, database: rescued.file }, sentenceOfRescue(rescued));
  }
}

/** @param readOnly why nothing may be changed, as a sentence; without it everything may */
async function openOn(options: OpenOptions, readOnly?: string): Promise<NestExpressApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(options), {
    // Whoever starts it says what went wrong, in a sentence.
    abortOnError: false,
    logger: options.quiet ? ['error'] : new RoomLogger({ logLevels: ['error', 'warn', 'log'] }),
    // JSON alone is read: nothing here is sent as a form without files.
    bodyParser: false,
    // An open page keeps its connections; the server must still end when asked.
    forceCloseConnections: true,
  }).catch((error: unknown) => {
    throw withFileSaid(error);
  });
  const room = app.get(RoomService);
  room.readOnly = readOnly ?? null;
  app.use(whoMay(options.hosts ?? []));
  app.use(helmet({ contentSecurityPolicy: contentPolicy, strictTransportSecurity: false }));
  app.use(reasonable);
  app.use(cookieParser());
  app.use('/api/room', toldOfRoom());
  app.use(atTheDoor(room, cookieName(options.isEncrypted ?? false)));
  app.use('/api/room', slowly());
  if (readOnly !== undefined) app.use(onlyLooking(readOnly));
  app.useBodyParser('json', { limit: MAX_BODY, verify: refuseDeep });
  app.setGlobalPrefix('api');
  app.useGlobalPipes(new ValidationPipe({ whitelist: true, forbidNonWhitelisted: true, transform: true }));
  app.useGlobalFilters(new ProblemFilter());
  serveInterface(app, options.webFolder);
  const description = new DocumentBuilder()
    .setTitle('Zest Jaw')
    .setDescription('From a recorded line to a talking mouth.')
    .setVersion('0.1')
    .build();
  // As JSON only, for whatever reads such descriptions: a page for it would bring more along than it shows.
  SwaggerModule.setup('docs', app, () => SwaggerModule.createDocument(app, description), {
    useGlobalPrefix: true,
    ui: false,
    raw: ['json'],
    jsonDocumentUrl: 'docs',
  });
  app.enableShutdownHooks();
  const orm = app.get<MikroORM>(MikroORM);
  try {
    await prepareDatabase(orm);
    await app.get<Helpers | null>(HELPERS)?.begin();
    await room.begin();
    await app.init();
    // What was rescued is shown as it is; files that belong to what was lost are still there.
    if (readOnly !== undefined) return app;
    await RequestContext.create(orm.em, () => app.get(DemoService).loadIfEmpty());
    await app.get(ClearingService).begin();
    await app.get(JobService).resume();
  } catch (error) {
    await orm.close(true);
    await app.get(WorkerPool).onModuleDestroy();
    throw error;
  }
  return app;
}
