import { Body, Controller, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { DistanceResult, ExactCut } from '@bathyscope/contracts';
import { DistanceRequest, SectionRequest } from '@bathyscope/contracts/requests';
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

  @Post('section')
  @HttpCode(200)
  @ApiOperation({ summary: 'The exact outlines that a plane cuts of components, in the axes that core’s planeFrame gives the plane' })
  section(@Param('id', ParseUUIDPipe) id: string, @Body() body: SectionRequest): Promise<ExactCut[]> {
    return this.questions.section(id, body);
  }
}
