CREATE TABLE `checkpoints` (
	`id` text PRIMARY KEY NOT NULL,
	`environment_id` text NOT NULL,
	`name` text NOT NULL,
	`method` text NOT NULL,
	`holds` text NOT NULL,
	`steps` integer NOT NULL,
	`episodes` integer NOT NULL,
	`content` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `checkpoints_of_environment` ON `checkpoints` (`environment_id`,`created_at`);