// A worker thread of the server: works out what would hold its one thread up. Runs the sources as
// they are, as the command line does.
import { register } from 'tsx/esm/api';

register();
const { default: reckon } = await import('./src/server/reckoning/tasks.ts');

export default reckon;
