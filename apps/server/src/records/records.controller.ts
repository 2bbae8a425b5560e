import {
  Body,
  Controller,
  Delete,
  Get,
  Headers,
  HttpCode,
  Patch,
  Post,
  Put,
  Query,
  Req,
  Res,
} from '@nestjs/common';
import type { KeptRecord, RecordAnswer, RecordChange } from '@bathyscope/contracts';
import { ChangeRecordsRequest, ListRecordsRequest, SaveRecordRequest } from '@bathyscope/contracts/requests';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { IdParam } from '../http/id-param.ts';
import { badRequest, ProblemException } from '../problems/problem.ts';
import { Author, KnownProfile } from '../profiles/profile-param.ts';
import { RecordsService } from './records.service.ts';

const RecordId = () => IdParam('record');
const etag = (record: KeptRecord): string => `"${record.rev}"`;

@ApiTags('records')
@Controller('models/:id/records')
export class RecordsController {
  constructor(private readonly records: RecordsService) {}

  @Get()
  @ApiOperation({
    summary: 'What is kept of a model: all records, those of the bin, or those named in `ids`',
  })
  async list(
    @KnownProfile() me: string | null,
    @IdParam() id: string,
    @Query() { ids, bin }: ListRecordsRequest,
    @Res() response: Response,
  ): Promise<void> {
    const pages = await this.records.pages(id, ids ? ids.split(',') : bin === 'true' ? 'bin' : 'kept', me);
    const first = await pages.next();
    response.set({ 'Content-Type': 'application/json; charset=utf-8', 'Cache-Control': 'no-store' });
    let separator = '[';
    for (let { value, done } = first; !done && !response.destroyed; { value, done } = await pages.next()) {
      if (value.length) response.write(`${separator}${value.join(',')}`);
      if (value.length) separator = ',';
    }
    response.end(separator === '[' ? '[]' : ']');
  }

  @Patch()
  @ApiOperation({ summary: 'Change up to 500 records; each is answered for itself, in their order' })
  change(
    @Author() profile: string,
    @IdParam() id: string,
    @Body() body: ChangeRecordsRequest,
  ): Promise<RecordAnswer[]> {
    return this.records.change(profile, id, body.changes, body.revision);
  }

  @Get(':record')
  @ApiOperation({ summary: 'One record; its ETag is what a change of it names in If-Match' })
  async find(
    @KnownProfile() me: string | null,
    @IdParam() id: string,
    @RecordId() record: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<KeptRecord> {
    return tagged(response, await this.records.find(id, record, me));
  }

  @Put(':record')
  @ApiOperation({
    summary:
      'Keep a record: a new one, or with If-Match a change; 412 with what is there when that was changed meanwhile',
  })
  async save(
    @Author() profile: string,
    @IdParam() id: string,
    @RecordId() record: string,
    @Headers('if-match') match: string | undefined,
    @Body() { kind, version, document, position = 0 }: SaveRecordRequest,
    @Res({ passthrough: true }) response: Response,
  ): Promise<KeptRecord> {
    const stored = await this.one(profile, id, {
      id: record,
      kind,
      version,
      document,
      position,
      deleted: false,
      match: match === undefined ? null : revIn(match),
    });
    return tagged(response, stored);
  }

  @Delete(':record')
  @HttpCode(200)
  @ApiOperation({ summary: 'Put a record into the bin' })
  remove(@Author() profile: string, @IdParam() id: string, @RecordId() record: string): Promise<KeptRecord> {
    return this.setDeleted(profile, id, record, true);
  }

  @Post(':record/restore')
  @HttpCode(200)
  @ApiOperation({ summary: 'Put a record of the bin back' })
  restore(@Author() profile: string, @IdParam() id: string, @RecordId() record: string): Promise<KeptRecord> {
    return this.setDeleted(profile, id, record, false);
  }

  @Delete(':record/for-good')
  @HttpCode(204)
  @ApiOperation({ summary: 'Delete a record that lies in the bin for good' })
  purge(@IdParam() id: string, @RecordId() record: string): Promise<void> {
    return this.records.purge(id, record);
  }

  @Get(':record/picture')
  @ApiOperation({ summary: 'The picture of a record, such as a saved view (PNG)' })
  async picture(@IdParam() id: string, @RecordId() record: string, @Res() response: Response): Promise<void> {
    const png = await this.records.picture(id, record);
    response.set({ 'Cache-Control': 'private, max-age=31536000, immutable' }).type('png').send(png);
  }

  @Put(':record/picture')
  @HttpCode(204)
  @ApiOperation({ summary: 'Replace the picture of a record (PNG body, at most 1 MB)' })
  setPicture(@IdParam() id: string, @RecordId() record: string, @Req() request: Request): Promise<void> {
    return this.records.setPicture(id, record, request.body as unknown);
  }

  private async setDeleted(
    profile: string,
    model: string,
    record: string,
    deleted: boolean,
  ): Promise<KeptRecord> {
    const { kind, version, document, position, rev } = await this.records.find(model, record, profile);
    return this.one(profile, model, { id: record, kind, version, document, position, deleted, match: rev });
  }

  private async one(profile: string, model: string, change: RecordChange): Promise<KeptRecord> {
    const [{ outcome, record, problem = '' }] = await this.records.change(profile, model, [change]);
    if (outcome === 'refused') throw new ProblemException(422, 'Not kept', problem);
    if (outcome === 'changed')
      throw new ProblemException(
        412,
        'Changed meanwhile',
        'This was changed by someone else meanwhile. Put your change to what is there now, and send it once more with its rev.',
        { record },
      );
    return record!;
  }
}

function tagged(response: Response, record: KeptRecord): KeptRecord {
  response.set('ETag', etag(record));
  return record;
}

function revIn(match: string): number {
  const [, rev] = /^"?(\d{1,9})"?$/.exec(match) ?? [];
  if (rev === undefined) throw badRequest('If-Match is the ETag of the record that was read, such as "3".');
  return Number(rev);
}
