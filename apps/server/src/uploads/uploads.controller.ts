import { Controller, Post, Req } from '@nestjs/common';
import { ApiBody, ApiConsumes, ApiOperation, ApiTags } from '@nestjs/swagger';
import type { UploadResult } from '@bathyscope/contracts';
import type { Request } from 'express';
import { IdParam } from '../http/id-param.ts';
import { KnownProfile } from '../profiles/profile-param.ts';
import { UploadsService } from './uploads.service.ts';

@ApiTags('models')
@Controller('models')
export class UploadsController {
  constructor(private readonly uploads: UploadsService) {}

  @Post()
  @ApiOperation({
    summary:
      'Upload STEP files; the conversion of each is a job. What became of the second and later ones stands under “others”',
  })
  @ApiConsumes('multipart/form-data')
  @ApiBody({ schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } } })
  upload(@KnownProfile() profile: string | null, @Req() request: Request): Promise<UploadResult> {
    return this.uploads.receive(request, profile);
  }

  @Post(':id/revisions')
  @ApiOperation({
    summary: 'Upload the next revision of a model; the present one is shown until this is converted',
  })
  @ApiConsumes('multipart/form-data')
  @ApiBody({ schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } } })
  revise(
    @KnownProfile() profile: string | null,
    @IdParam() id: string,
    @Req() request: Request,
  ): Promise<UploadResult> {
    return this.uploads.receive(request, profile, id);
  }
}
