import { Module } from '@nestjs/common';
import { BinModule } from './bin/bin.module.ts';
import { ChecksModule } from './checks/checks.module.ts';
import { DatabaseModule } from './database/database.module.ts';
import { EventsModule } from './events/events.module.ts';
import { GeometriesModule } from './geometries/geometries.module.ts';
import { JobsModule } from './jobs/jobs.module.ts';
import { MaterialsModule } from './materials/materials.module.ts';
import { ModelsModule } from './models/models.module.ts';
import { RevisionsModule } from './models/revisions.module.ts';
import { ProfilesModule } from './profiles/profiles.module.ts';
import { QuestionsModule } from './questions/questions.module.ts';
import { RecordsModule } from './records/records.module.ts';
import { SettingsModule } from './settings/settings.module.ts';
import { UploadsModule } from './uploads/uploads.module.ts';
import { ViewsModule } from './views/views.module.ts';

/** The web server: one module a resource. Jobs run elsewhere (`worker/`). */
@Module({
  imports: [
    DatabaseModule,
    BinModule,
    ModelsModule,
    RevisionsModule,
    GeometriesModule,
    JobsModule,
    EventsModule,
    UploadsModule,
    QuestionsModule,
    ChecksModule,
    ViewsModule,
    RecordsModule,
    SettingsModule,
    MaterialsModule,
    ProfilesModule,
  ],
})
export class AppModule {}
