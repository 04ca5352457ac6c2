CREATE TABLE `assignments` (
	`id` text PRIMARY KEY NOT NULL,
	`class_id` text NOT NULL,
	`content` text NOT NULL,
	`tries` integer,
	`closes_at` integer,
	`made_up_names` integer NOT NULL,
	`created_at` integer NOT NULL,
	`revealed_at` integer,
	`withdrawn_at` integer
);
--> statement-breakpoint
CREATE INDEX `assignments_of_class` ON `assignments` (`class_id`,`created_at`);--> statement-breakpoint
CREATE TABLE `audit` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`at` integer NOT NULL,
	`who` text NOT NULL,
	`class_id` text,
	`what` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `audit_by_time` ON `audit` (`at`);--> statement-breakpoint
CREATE TABLE `classes` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`code` text,
	`created_at` integer NOT NULL,
	`closed_at` integer
);
--> statement-breakpoint
CREATE UNIQUE INDEX `classes_code_unique` ON `classes` (`code`);--> statement-breakpoint
CREATE TABLE `exercises` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`content` text NOT NULL,
	`revision` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE TABLE `hand_ins` (
	`id` text PRIMARY KEY NOT NULL,
	`assignment_id` text NOT NULL,
	`student_id` text NOT NULL,
	`content` text NOT NULL,
	`state` text NOT NULL,
	`problems` text,
	`open` text,
	`hidden` text,
	`open_points` real,
	`hidden_points` real,
	`created_at` integer NOT NULL,
	`scored_at` integer
);
--> statement-breakpoint
CREATE INDEX `hand_ins_of_assignment` ON `hand_ins` (`assignment_id`,`student_id`,`created_at`);--> statement-breakpoint
CREATE INDEX `hand_ins_by_state` ON `hand_ins` (`state`,`created_at`);--> statement-breakpoint
CREATE TABLE `settings` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `students` (
	`id` text PRIMARY KEY NOT NULL,
	`class_id` text NOT NULL,
	`name` text NOT NULL,
	`alias` text NOT NULL,
	`token` text,
	`created_at` integer NOT NULL,
	`put_out_at` integer
);
--> statement-breakpoint
CREATE UNIQUE INDEX `students_token_unique` ON `students` (`token`);--> statement-breakpoint
CREATE INDEX `students_of_class` ON `students` (`class_id`,`created_at`);