CREATE TABLE `import_files` (
	`import_id` integer PRIMARY KEY NOT NULL,
	`content` text NOT NULL,
	FOREIGN KEY (`import_id`) REFERENCES `imports`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `import_files` (`import_id`, `content`) SELECT `id`, `content` FROM `imports`;
--> statement-breakpoint
ALTER TABLE `imports` DROP COLUMN `content`;