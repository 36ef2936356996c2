import { timestamp } from 'drizzle-orm/pg-core';

/** A moment, whatever the time zone. name: of the column. */
export const moment = (name: string) => timestamp(name, { withTimezone: true });
