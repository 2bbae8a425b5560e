import { Module } from '@nestjs/common';
import { BinController } from './bin.controller.ts';
import { BinRepository } from './bin.repository.ts';

@Module({ controllers: [BinController], providers: [BinRepository] })
export class BinModule {}
