import { Module } from '@nestjs/common';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { ModelsModule } from '../models/models.module.ts';
import { ViewsController } from './views.controller.ts';
import { ViewsRepository } from './views.repository.ts';
import { ViewsService } from './views.service.ts';

@Module({
  imports: [ModelsModule, ProfilesModule],
  controllers: [ViewsController],
  providers: [ViewsRepository, ViewsService],
})
export class ViewsModule {}
