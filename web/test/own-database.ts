import pg from 'pg';

// Files of tests that run side by side have a database each, which those of one row hand on to the next.

const target = new URL(process.env.DATABASE_URL!);
const name = `${target.pathname.slice(1).replace(/_row\d+$/, '')}_row${process.env.VITEST_POOL_ID ?? '1'}`;
process.env.DATABASE_URL = Object.assign(new URL(target), { pathname: `/${name}` }).href;
const client = new pg.Client({
  connectionString: Object.assign(new URL(target), { pathname: '/postgres' }).href,
});
await client.connect();
const there = await client.query('select 1 from pg_database where datname = $1', [name]);
if (there.rowCount === 0) await client.query(`create database "${name}"`);
await client.end();
