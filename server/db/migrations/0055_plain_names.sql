ALTER TABLE `happenings` RENAME TO `activities`;--> statement-breakpoint
DROP INDEX `happenings_key_unique`;--> statement-breakpoint
DROP INDEX `happenings_record`;--> statement-breakpoint
DROP INDEX `happenings_at`;--> statement-breakpoint
CREATE UNIQUE INDEX `activities_key_unique` ON `activities` (`key`);--> statement-breakpoint
CREATE INDEX `activities_record` ON `activities` (`object`,`record_id`,`at_ms`);--> statement-breakpoint
CREATE INDEX `activities_at` ON `activities` (`at_ms`);--> statement-breakpoint
ALTER TABLE `unknown_happenings` RENAME TO `unknown_activities`;--> statement-breakpoint
DROP INDEX `unknown_happenings_key_unique`;--> statement-breakpoint
DROP INDEX `unknown_happenings_visitor`;--> statement-breakpoint
DROP INDEX `unknown_happenings_at`;--> statement-breakpoint
CREATE UNIQUE INDEX `unknown_activities_key_unique` ON `unknown_activities` (`key`);--> statement-breakpoint
CREATE INDEX `unknown_activities_visitor` ON `unknown_activities` (`visitor`,`at_ms`);--> statement-breakpoint
CREATE INDEX `unknown_activities_at` ON `unknown_activities` (`at_ms`);--> statement-breakpoint
ALTER TABLE `gone_records` RENAME COLUMN `happenings_given` TO `activities_given`;--> statement-breakpoint
UPDATE `task_acts` SET `act` = 'returned' WHERE `act` = 'putBack';--> statement-breakpoint
UPDATE `link_acts` SET `cause` = json_replace(replace(`cause`, '"happeningId"', '"activityId"'), '$.by', 'activity') WHERE json_extract(`cause`, '$.by') = 'happening';--> statement-breakpoint
UPDATE `link_acts` SET `cause` = json_replace(`cause`, '$.by', 'derived') WHERE json_extract(`cause`, '$.by') = 'kept';--> statement-breakpoint
DROP TRIGGER `events_stay`;--> statement-breakpoint
UPDATE `events` SET `cause` = json_replace(replace(`cause`, '"happeningId"', '"activityId"'), '$.by', 'activity') WHERE json_extract(`cause`, '$.by') = 'happening';--> statement-breakpoint
UPDATE `events` SET `cause` = json_replace(`cause`, '$.by', 'derived') WHERE json_extract(`cause`, '$.by') = 'kept';--> statement-breakpoint
CREATE TRIGGER `events_stay` BEFORE UPDATE ON `events` BEGIN SELECT RAISE(ABORT, 'the log of changes is only ever added to'); END;--> statement-breakpoint
UPDATE `rule_jobs` SET `work` = json_replace(`work`, '$.what', 'backfill') WHERE json_extract(`work`, '$.what') = 'through';
