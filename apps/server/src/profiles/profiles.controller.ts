import { Body, Controller, Get, HttpCode, Put } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { RenameProfileRequest } from '@bathyscope/contracts/requests';
import { Profile } from './profile-param.ts';
import { ProfilesService } from './profiles.service.ts';

@ApiTags('profile')
@Controller('profile')
export class ProfilesController {
  constructor(private readonly profiles: ProfilesService) {}

  @Get()
  @ApiOperation({ summary: 'The profile of this browser. A browser without one gets it, with a cookie that is its own' })
  async profile(@Profile() profile: string): Promise<{ name: string }> {
    return { name: await this.profiles.name(profile) };
  }

  @Put()
  @HttpCode(204)
  @ApiOperation({ summary: 'Name the profile; an empty name takes the name away' })
  rename(@Profile() profile: string, @Body() body: RenameProfileRequest): Promise<void> {
    return this.profiles.rename(profile, body.name);
  }
}
