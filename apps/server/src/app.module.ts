import { Module } from '@nestjs/common';
import { DatabaseModule } from './database/database.module.ts';
import { GeometriesController } from './geometries/geometries.controller.ts';
import { GeometriesRepository } from './geometries/geometries.repository.ts';
import { ConversionService } from './jobs/conversion.service.ts';
import { JobsController } from './jobs/jobs.controller.ts';
import { JobsRepository } from './jobs/jobs.repository.ts';
import { JobsService } from './jobs/jobs.service.ts';
import { KernelService } from './kernel/kernel.service.ts';
import { DemoService } from './models/demo.service.ts';
import { ModelsController } from './models/models.controller.ts';
import { ModelsRepository } from './models/models.repository.ts';
import { ModelsService } from './models/models.service.ts';
import { SourcesRepository } from './models/sources.repository.ts';
import { UploadService } from './models/upload.service.ts';
import { QuestionsController } from './questions/questions.controller.ts';
import { PreferencesController } from './preferences/preferences.controller.ts';
import { PreferencesRepository } from './preferences/preferences.repository.ts';
import { QuestionsService } from './questions/questions.service.ts';
import { ViewsController } from './views/views.controller.ts';
import { ViewsRepository } from './views/views.repository.ts';
import { ViewsService } from './views/views.service.ts';

@Module({
  imports: [DatabaseModule],
  controllers: [ModelsController, GeometriesController, JobsController, QuestionsController, ViewsController, PreferencesController],
  providers: [
    KernelService, GeometriesRepository, SourcesRepository, ModelsRepository, ModelsService,
    JobsRepository, ConversionService, JobsService, UploadService, QuestionsService, DemoService,
    ViewsRepository, ViewsService, PreferencesRepository,
  ],
})
export class AppModule {}
