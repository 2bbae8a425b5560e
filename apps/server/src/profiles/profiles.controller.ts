import { Body, Controller, Get, HttpCode, Post, Put, Req, Res } from '@nestjs/common';
import type { ProfileView } from '@bathyscope/contracts';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { RenameProfileRequest } from '@bathyscope/contracts/requests';
import type { Request, Response } from 'express';
import { Profile } from './profile-param.ts';
import { ProfilesService } from './profiles.service.ts';

@ApiTags('profile')
@Controller('profile')
export class ProfilesController {
  constructor(private readonly profiles: ProfilesService) {}

  @Get()
  @ApiOperation({
    summary: 'The profile of this browser. A browser without one gets it, with a cookie that is its own',
  })
  async profile(@Profile() profile: string, @Req() request: Request): Promise<ProfileView> {
    return { name: await this.profiles.name(profile), earlier: await this.profiles.hasEarlier(request) };
  }

  @Post('earlier')
  @HttpCode(204)
  @ApiOperation({
    summary: 'Take up the profile that the browser had before, which was not known when it got this one',
  })
  takeUpEarlier(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    return this.profiles.takeUpEarlier(request, response);
  }

  @Put()
  @HttpCode(204)
  @ApiOperation({ summary: 'Name the profile; an empty name takes the name away' })
  rename(@Profile() profile: string, @Body() body: RenameProfileRequest): Promise<void> {
    return this.profiles.rename(profile, body.name);
  }
}
