import { Body, Controller, Get, HttpCode, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { SaveSettingsRequest } from '@bathyscope/contracts/requests';
import { IdParam } from '../http/id-param.ts';
import { ModelsService } from '../models/models.service.ts';
import { PreferencesRepository } from './preferences.repository.ts';

type Values = { values: Record<string, unknown> | null };

@ApiTags('settings')
@Controller()
export class PreferencesController {
  constructor(
    private readonly preferences: PreferencesRepository,
    private readonly models: ModelsService,
  ) {}

  @Get('settings')
  @ApiOperation({ summary: 'What the user set about the interface, or null' })
  async settings(): Promise<Values> {
    return { values: await this.preferences.settings() };
  }

  @Put('settings')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep what the user set about the interface' })
  saveSettings(@Body() body: SaveSettingsRequest): Promise<void> {
    return this.preferences.saveSettings(body.values);
  }

  @Get('models/:id/preferences')
  @ApiOperation({ summary: 'What the user set about a model: up axis and Home; or null' })
  async ofModel(@IdParam() id: string): Promise<Values> {
    await this.models.require(id);
    return { values: await this.preferences.ofModel(id) };
  }

  @Put('models/:id/preferences')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep what the user set about a model' })
  async saveOfModel(@IdParam() id: string, @Body() body: SaveSettingsRequest): Promise<void> {
    await this.models.require(id);
    await this.preferences.saveOfModel(id, body.values);
  }
}
