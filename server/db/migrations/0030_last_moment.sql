DROP INDEX `runs_failed`;--> statement-breakpoint
DROP INDEX `runs_waiting`;--> statement-breakpoint
ALTER TABLE `runs` ADD `last_at` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE `runs` SET `last_at` = coalesce(`ended_at`, `started_at`);--> statement-breakpoint
CREATE INDEX `runs_moment` ON `runs` (`last_at`,`id`);--> statement-breakpoint
CREATE INDEX `runs_rule_moment` ON `runs` (`rule_id`,`last_at`,`id`);--> statement-breakpoint
CREATE INDEX `runs_failed` ON `runs` (`last_at`,`id`) WHERE state = 'failed';--> statement-breakpoint
CREATE INDEX `runs_waiting` ON `runs` (`last_at`,`id`) WHERE state = 'waiting';