ALTER TABLE `waits` ADD `signals` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
-- What was waited for was a field; it is now one of the kinds of signals.
UPDATE `waits` SET `signals` = json_array(json_object('signal', 'field', 'key', `awaited`)) WHERE `awaited` IS NOT NULL;--> statement-breakpoint
ALTER TABLE `waits` DROP COLUMN `awaited`;
