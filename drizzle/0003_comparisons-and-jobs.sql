CREATE TABLE `comparisons` (
	`id` text PRIMARY KEY NOT NULL,
	`environment_id` text NOT NULL,
	`name` text NOT NULL,
	`content` text NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `comparisons_of_environment` ON `comparisons` (`environment_id`,`updated_at`);--> statement-breakpoint
CREATE TABLE `job_chunks` (
	`job_id` text NOT NULL,
	`number` integer NOT NULL,
	`key` text NOT NULL,
	`runs` text NOT NULL,
	`seconds` real NOT NULL,
	`finished_at` integer NOT NULL,
	PRIMARY KEY(`job_id`, `number`)
);
--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` text PRIMARY KEY NOT NULL,
	`environment_id` text NOT NULL,
	`name` text NOT NULL,
	`request` text NOT NULL,
	`state` text NOT NULL,
	`priority` integer NOT NULL,
	`chunks` integer NOT NULL,
	`chunk_size` integer NOT NULL,
	`program` text NOT NULL,
	`message` text,
	`created_at` integer NOT NULL,
	`finished_at` integer
);
--> statement-breakpoint
CREATE INDEX `jobs_by_state` ON `jobs` (`state`,`created_at`);