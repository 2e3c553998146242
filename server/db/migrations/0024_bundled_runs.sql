ALTER TABLE `runs` ADD `bundle` integer;--> statement-breakpoint
CREATE INDEX `runs_bundle` ON `runs` (`bundle`) WHERE bundle is not null;