ALTER TABLE `notices` ADD `bundle` integer;--> statement-breakpoint
CREATE INDEX `notices_bundle` ON `notices` (`bundle`) WHERE "notices"."bundle" is not null;--> statement-breakpoint
CREATE INDEX `notices_heads` ON `notices` (`person_id`,`rule_id`,`at_ms`) WHERE "notices"."bundle" is null;