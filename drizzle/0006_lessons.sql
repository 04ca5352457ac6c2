CREATE TABLE `lessons` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`views` integer NOT NULL,
	`content` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE TABLE `links` (
	`id` text PRIMARY KEY NOT NULL,
	`environment_id` text NOT NULL,
	`scene` text NOT NULL,
	`created_at` integer NOT NULL
);
