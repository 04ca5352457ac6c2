CREATE TABLE `versions` (
	`id` text PRIMARY KEY NOT NULL,
	`environment_id` text NOT NULL,
	`name` text,
	`document` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `versions_of_environment` ON `versions` (`environment_id`,`created_at`);--> statement-breakpoint
ALTER TABLE `environments` ADD `base_id` text;