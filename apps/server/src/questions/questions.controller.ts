import { Body, Controller, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { DistanceResult } from '@bathyscope/contracts';
import { DistanceRequest } from '@bathyscope/contracts/requests';
import { QuestionsService } from './questions.service.ts';

@ApiTags('questions')
@Controller('models/:id/questions')
export class QuestionsController {
  constructor(private readonly questions: QuestionsService) {}

  @Post('distance')
  @HttpCode(200)
  @ApiOperation({ summary: 'Exact least distance between two things of a model; never waits for a conversion' })
  distance(@Param('id', ParseUUIDPipe) id: string, @Body() body: DistanceRequest): Promise<DistanceResult> {
    return this.questions.distance(id, body);
  }
}
