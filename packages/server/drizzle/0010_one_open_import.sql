UPDATE "import_job" SET state = 'cancelled' WHERE state in ('queued', 'running') AND id NOT IN (SELECT DISTINCT ON (drawing_id) id FROM "import_job" WHERE state in ('queued', 'running') ORDER BY drawing_id, created_at DESC);--> statement-breakpoint
CREATE UNIQUE INDEX "import_job_open" ON "import_job" USING btree ("drawing_id") WHERE state in ('queued', 'running');
