// A worker thread of the server: works out what would hold its one thread up. The served application
// runs what was built with it, and so do tests that built it first; the preparation of the database runs
// the sources, which takes each thread three seconds more.
const built =
  process.env.HANZAI_SERVES_BUILD === '1' || process.env.HANZAI_RECKONER_IS_BUILT === '1';
if (!built) {
  const { register } = await import('tsx/esm/api');
  register();
}
const { default: reckon } = await import(
  built ? './dist/reckoner/tasks.js' : './src/server/reckoning/tasks.ts'
);

export default reckon;
