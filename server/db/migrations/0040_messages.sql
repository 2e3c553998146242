CREATE TABLE `template_versions` (
	`template_id` integer NOT NULL,
	`version` integer NOT NULL,
	`variants` text NOT NULL,
	`changed_by` text,
	`changed_at` integer NOT NULL,
	PRIMARY KEY(`template_id`, `version`),
	FOREIGN KEY (`template_id`) REFERENCES `templates`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `templates` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`name` text NOT NULL,
	`folder` text DEFAULT '' NOT NULL,
	`channel` text NOT NULL,
	`variants` text NOT NULL,
	`version` integer DEFAULT 1 NOT NULL,
	`archived` integer DEFAULT false NOT NULL,
	`changed_by` text,
	`changed_at` integer NOT NULL,
	FOREIGN KEY (`changed_by`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `messages` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`key` text NOT NULL,
	`channel` text NOT NULL,
	`way` text NOT NULL,
	`contact_id` integer NOT NULL,
	`object` text NOT NULL,
	`record_id` integer NOT NULL,
	`rule_id` integer,
	`run_id` integer,
	`step_id` text,
	`person_id` text,
	`from_name` text NOT NULL,
	`from_address` text NOT NULL,
	`name` text NOT NULL,
	`address` text NOT NULL,
	`subject` text NOT NULL,
	`text` text NOT NULL,
	`label` text NOT NULL,
	`template_id` integer,
	`message_id` text NOT NULL,
	`in_reply_to` text,
	`state` text NOT NULL,
	`at_ms` integer NOT NULL,
	`sent_at` integer,
	`opened_at` integer,
	`answered_at` integer,
	`kind` text,
	`phrase` text,
	`corrected_by` text,
	`reason` text,
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `messages_key_unique` ON `messages` (`key`);--> statement-breakpoint
CREATE INDEX `messages_address` ON `messages` (`channel`,`address`,`at_ms`);--> statement-breakpoint
CREATE INDEX `messages_contact` ON `messages` (`contact_id`,`at_ms`);--> statement-breakpoint
CREATE INDEX `messages_rule` ON `messages` (`rule_id`,`at_ms`);--> statement-breakpoint
CREATE INDEX `messages_run` ON `messages` (`run_id`);--> statement-breakpoint
CREATE INDEX `messages_message_id` ON `messages` (`message_id`);--> statement-breakpoint
CREATE INDEX `messages_answers` ON `messages` (`in_reply_to`);--> statement-breakpoint
CREATE TABLE `stopped_addresses` (
	`channel` text NOT NULL,
	`address` text NOT NULL,
	`because` text NOT NULL,
	`how` text NOT NULL,
	`at_ms` integer NOT NULL,
	`person_id` text,
	PRIMARY KEY(`channel`, `address`),
	FOREIGN KEY (`person_id`) REFERENCES `people`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
PRAGMA foreign_keys=OFF;--> statement-breakpoint
CREATE TABLE `__new_outbox` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`key` text NOT NULL,
	`channel` text NOT NULL,
	`recipient` text NOT NULL,
	`subject` text NOT NULL,
	`body` text NOT NULL,
	`run_id` integer,
	`more` text,
	`state` text NOT NULL,
	`attempts` integer NOT NULL,
	`next_at` integer NOT NULL,
	`created_at` integer NOT NULL,
	`delivered_at` integer,
	`last_error` text,
	`owner` text,
	`leased_until` integer,
	FOREIGN KEY (`run_id`) REFERENCES `runs`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_outbox`("id", "key", "channel", "recipient", "subject", "body", "run_id", "more", "state", "attempts", "next_at", "created_at", "delivered_at", "last_error", "owner", "leased_until") SELECT "id", "key", "channel", "recipient", "subject", "body", "run_id", NULL, "state", "attempts", "next_at", "created_at", "delivered_at", "last_error", "owner", "leased_until" FROM `outbox`;--> statement-breakpoint
DROP TABLE `outbox`;--> statement-breakpoint
ALTER TABLE `__new_outbox` RENAME TO `outbox`;--> statement-breakpoint
PRAGMA foreign_keys=ON;--> statement-breakpoint
CREATE UNIQUE INDEX `outbox_key_unique` ON `outbox` (`key`);--> statement-breakpoint
CREATE INDEX `outbox_due` ON `outbox` (`next_at`,`id`) WHERE state = 'pending';--> statement-breakpoint
CREATE INDEX `outbox_run` ON `outbox` (`run_id`);--> statement-breakpoint
ALTER TABLE `workspace` ADD `messaging` text;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `channel` text DEFAULT 'mail' NOT NULL;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `name` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `sender` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `sender_name` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `contact_id` integer;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `message_id` text;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `raw` text;