import { Module } from '@nestjs/common';
import { JobsModule } from '../jobs/jobs.module.ts';
import { ModelsModule } from '../models/models.module.ts';
import { ChecksController } from './checks.controller.ts';
import { ChecksRepository } from '../storage/checks.repository.ts';
import { ChecksService } from './checks.service.ts';

@Module({
  imports: [JobsModule, ModelsModule],
  controllers: [ChecksController],
  providers: [ChecksService, ChecksRepository],
})
export class ChecksModule {}
