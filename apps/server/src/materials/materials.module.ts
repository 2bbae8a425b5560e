import { Module } from '@nestjs/common';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { MaterialsController } from './materials.controller.ts';
import { MaterialsRepository } from './materials.repository.ts';
import { MaterialsService } from './materials.service.ts';

@Module({
  imports: [ProfilesModule],
  controllers: [MaterialsController],
  providers: [MaterialsService, MaterialsRepository],
})
export class MaterialsModule {}
