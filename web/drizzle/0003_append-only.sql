-- The journal is only ever added to: a correction is another entry. Held here too, beneath every program that writes.
CREATE FUNCTION "journal_is_append_only"() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  RAISE EXCEPTION 'the journal of a case is append-only: a correction is another entry' USING ERRCODE = '23001';
END
$$;
--> statement-breakpoint
CREATE TRIGGER "case_entry_append_only" BEFORE UPDATE OR DELETE ON "case_entry" FOR EACH ROW EXECUTE FUNCTION "journal_is_append_only"();
--> statement-breakpoint
CREATE TRIGGER "case_entry_no_truncate" BEFORE TRUNCATE ON "case_entry" FOR EACH STATEMENT EXECUTE FUNCTION "journal_is_append_only"();
