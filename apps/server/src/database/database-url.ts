/** Where the database is; bin/start and bin/worker say so. */
export function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set; start Bathyscope with bin/start.');
  return url;
}
