ALTER TABLE `workspace` ADD `simulated_share` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `act` text;--> statement-breakpoint
ALTER TABLE `stand_in_mail` ADD `act_at` integer;--> statement-breakpoint
CREATE INDEX `stand_in_mail_act` ON `stand_in_mail` (`act_at`) WHERE act_at is not null;