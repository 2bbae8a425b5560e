import { Body, Controller, Delete, Get, HttpCode, Put } from '@nestjs/common';
import type { OwnMaterial } from '@bathyscope/contracts';
import { SaveMaterialRequest } from '@bathyscope/contracts/requests';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { IdParam } from '../http/id-param.ts';
import { Author } from '../profiles/profile-param.ts';
import { MaterialsService } from './materials.service.ts';

@ApiTags('materials')
@Controller('materials')
export class MaterialsController {
  constructor(private readonly materials: MaterialsService) {}

  @Get()
  @ApiOperation({ summary: 'The materials that were added to the library here, by name' })
  list(): Promise<OwnMaterial[]> {
    return this.materials.list();
  }

  @Put(':id')
  @HttpCode(204)
  @ApiOperation({
    summary: 'Add a material to the library, or change one; refused (409) when another one has its name',
  })
  save(@Author() profile: string, @IdParam() id: string, @Body() body: SaveMaterialRequest): Promise<void> {
    const { name, family, density, spread, source } = body;
    return this.materials.save(profile, {
      id,
      name: name.trim(),
      family,
      density,
      spread,
      source: source.trim(),
    });
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiOperation({ summary: 'Take a material out of the library' })
  remove(@IdParam() id: string): Promise<void> {
    return this.materials.remove(id);
  }
}
