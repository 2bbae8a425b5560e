import { Module } from '@nestjs/common';
import { DatabaseEvents } from './database-events.ts';
import { EventsController } from './events.controller.ts';

@Module({ controllers: [EventsController], providers: [DatabaseEvents] })
export class EventsModule {}
