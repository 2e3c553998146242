CREATE TABLE `no_records` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`version` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
INSERT INTO `no_records` (`id`, `version`, `created_at`, `updated_at`) VALUES (1, 1, 0, 0);
