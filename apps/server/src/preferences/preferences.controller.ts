import { Body, Controller, Get, HttpCode, Patch, Put } from '@nestjs/common';
import type { ModelPreferences } from '@bathyscope/contracts';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { SavePreferencesRequest, SaveSettingsRequest } from '@bathyscope/contracts/requests';
import { IdParam } from '../http/id-param.ts';
import { Author, KnownProfile, Profile } from '../profiles/profile-param.ts';
import { PreferencesService } from './preferences.service.ts';

@ApiTags('settings')
@Controller()
export class PreferencesController {
  constructor(private readonly preferences: PreferencesService) {}

  @Get('settings')
  @ApiOperation({ summary: 'What this profile set about the interface, or null' })
  async settings(@KnownProfile() profile: string | null): Promise<{ values: Record<string, unknown> | null }> {
    return { values: await this.preferences.settings(profile) };
  }

  @Patch('settings')
  @HttpCode(204)
  @ApiOperation({ summary: 'Keep what this profile set about the interface: each of these by its name, the others stay' })
  saveSettings(@Profile() profile: string, @Body() body: SaveSettingsRequest): Promise<void> {
    return this.preferences.saveSettings(profile, body.values);
  }

  @Get('models/:id/preferences')
  @ApiOperation({ summary: 'What was set about a model: up axis, Home, names, kept sets and sections; and how often that was changed' })
  ofModel(@IdParam() id: string): Promise<ModelPreferences> {
    return this.preferences.ofModel(id);
  }

  @Put('models/:id/preferences')
  @ApiOperation({ summary: 'Keep what was made of a version of them; refused (409) when there is a newer one' })
  async saveOfModel(@Author() profile: string, @IdParam() id: string, @Body() body: SavePreferencesRequest): Promise<{ version: number }> {
    return { version: await this.preferences.saveOfModel(profile, id, body.values, body.version) };
  }
}
