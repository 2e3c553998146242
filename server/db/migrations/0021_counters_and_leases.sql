CREATE TABLE `rule_days` (
	`rule_id` integer NOT NULL,
	`day` integer NOT NULL,
	`runs` integer NOT NULL,
	`failed` integer NOT NULL,
	`last_at` integer NOT NULL,
	PRIMARY KEY(`rule_id`, `day`),
	FOREIGN KEY (`rule_id`) REFERENCES `rules`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `rule_days_day` ON `rule_days` (`day`);--> statement-breakpoint
DROP INDEX `outbox_due`;--> statement-breakpoint
ALTER TABLE `outbox` ADD `owner` text;--> statement-breakpoint
ALTER TABLE `outbox` ADD `leased_until` integer;--> statement-breakpoint
CREATE INDEX `outbox_run` ON `outbox` (`run_id`);--> statement-breakpoint
CREATE INDEX `outbox_due` ON `outbox` (`next_at`,`id`) WHERE state = 'pending';--> statement-breakpoint
CREATE INDEX `runs_rule` ON `runs` (`rule_id`,`id`);--> statement-breakpoint
CREATE INDEX `runs_failed` ON `runs` (`id`) WHERE state = 'failed';--> statement-breakpoint
CREATE INDEX `runs_waiting` ON `runs` (`id`) WHERE state = 'waiting';--> statement-breakpoint
CREATE INDEX `tasks_done` ON `tasks` (`done_by`,`done_at`);--> statement-breakpoint
CREATE INDEX `tasks_rule` ON `tasks` (`rule_id`,`id`);--> statement-breakpoint
-- Counted where it is written, whatever writes it: a run counts once it is known to have got past its conditions.
CREATE TRIGGER runs_counted AFTER UPDATE OF state ON runs
WHEN OLD.state = 'running' AND NEW.state <> 'running'
  AND (NEW.state <> 'stopped' OR json_extract(NEW.stop, '$.code') IN ('noLonger', 'ended'))
BEGIN
  INSERT INTO rule_days (rule_id, day, runs, failed, last_at)
  VALUES (NEW.rule_id, NEW.started_at / 86400000, 1, NEW.state = 'failed', NEW.started_at)
  ON CONFLICT (rule_id, day) DO UPDATE
  SET runs = runs + 1, failed = failed + excluded.failed, last_at = max(last_at, excluded.last_at);
END;
--> statement-breakpoint
CREATE TRIGGER runs_failing AFTER UPDATE OF state ON runs
WHEN OLD.state <> 'running' AND (OLD.state = 'failed') <> (NEW.state = 'failed')
BEGIN
  UPDATE rule_days SET failed = failed + (NEW.state = 'failed') - (OLD.state = 'failed')
  WHERE rule_id = NEW.rule_id AND day = NEW.started_at / 86400000;
END;
--> statement-breakpoint
INSERT INTO rule_days (rule_id, day, runs, failed, last_at)
SELECT rule_id, started_at / 86400000, count(*), sum(state = 'failed'), max(started_at) FROM runs
WHERE state <> 'running' AND (state <> 'stopped' OR json_extract(stop, '$.code') IN ('noLonger', 'ended'))
GROUP BY 1, 2;
