import { Module, type OnApplicationBootstrap } from '@nestjs/common';
import { GeometriesModule } from '../geometries/geometries.module.ts';
import { Answerer } from '../kernel/answerer.ts';
import { QuestionProcess } from '../kernel/question-process.ts';
import { ModelsModule } from '../models/models.module.ts';
import { ProfilesModule } from '../profiles/profiles.module.ts';
import { QuestionsController } from './questions.controller.ts';
import { QuestionsService } from './questions.service.ts';

@Module({
  imports: [ModelsModule, GeometriesModule, ProfilesModule],
  controllers: [QuestionsController],
  providers: [QuestionsService, { provide: Answerer, useClass: QuestionProcess }],
})
export class QuestionsModule implements OnApplicationBootstrap {
  constructor(private readonly answerer: Answerer) {}

  onApplicationBootstrap(): void {
    this.answerer.warm();
  }
}
