import { Module } from '@nestjs/common';
import { ProfilesController } from './profiles.controller.ts';
import { ProfilesRepository } from './profiles.repository.ts';
import { ProfilesService } from './profiles.service.ts';

@Module({
  controllers: [ProfilesController],
  providers: [ProfilesService, ProfilesRepository],
  exports: [ProfilesService],
})
export class ProfilesModule {}
