import { Controller, Delete, Get, HttpCode } from '@nestjs/common';
import type { BinnedModel } from '@bathyscope/contracts';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { IdParam } from '../http/id-param.ts';
import { notFound } from '../problems/problem.ts';
import { BinRepository } from './bin.repository.ts';

@ApiTags('bin')
@Controller('bin')
export class BinController {
  constructor(private readonly bin: BinRepository) {}

  @Get()
  @ApiOperation({
    summary: 'Models that were deleted, newest first, and until when they can be put back (by restore)',
  })
  list(): Promise<BinnedModel[]> {
    return this.bin.models();
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Delete a model that lies in the bin for good' })
  async purge(@IdParam() id: string): Promise<void> {
    if (!(await this.bin.purgeModel(id))) throw notFound('model in the bin');
  }
}
