import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { SaveSettingsRequest } from '@bathyscope/contracts/requests';
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
  async ofModel(@Param('id', ParseUUIDPipe) id: string): Promise<Values> {
    await this.models.find(id);
    return { values: await this.preferences.ofModel(id) };
  }

  @Put('models/:id/preferences')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep what the user set about a model' })
  async saveOfModel(@Param('id', ParseUUIDPipe) id: string, @Body() body: SaveSettingsRequest): Promise<void> {
    await this.models.find(id);
    await this.preferences.saveOfModel(id, body.values);
  }
}
