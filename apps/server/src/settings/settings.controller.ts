import { Body, Controller, Get, HttpCode, Patch } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { SaveSettingsRequest } from '@bathyscope/contracts/requests';
import { KnownProfile, Profile } from '../profiles/profile-param.ts';
import { SettingsRepository } from './settings.repository.ts';

@ApiTags('settings')
@Controller('settings')
export class SettingsController {
  constructor(private readonly settings: SettingsRepository) {}

  @Get()
  @ApiOperation({ summary: 'What this profile set about the interface, or null' })
  async find(@KnownProfile() profile: string | null): Promise<{ values: Record<string, unknown> | null }> {
    return { values: profile === null ? null : await this.settings.find(profile) };
  }

  @Patch()
  @HttpCode(204)
  @ApiOperation({
    summary: 'Keep what this profile set about the interface: each of these by its name, the others stay',
  })
  save(@Profile() profile: string, @Body() body: SaveSettingsRequest): Promise<void> {
    return this.settings.save(profile, body.values);
  }
}
