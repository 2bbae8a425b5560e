import pg from 'pg';

/* Starts the built server and a worker on a database of their own, empty at the start of every run. */
const url = new URL(process.env.DATABASE_URL);
const admin = new pg.Client({ connectionString: url.href });
await admin.connect();
await admin.query('drop database if exists e2e with (force)');
await admin.query('create database e2e');
await admin.end();
url.pathname = '/e2e';
process.env.DATABASE_URL = url.href;
await import('../scripts/supervise.mjs');
