DROP INDEX `tasks_step`;--> statement-breakpoint
CREATE INDEX `tasks_step` ON `tasks` (`run_id`,`step_id`);