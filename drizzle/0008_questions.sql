CREATE TABLE `answers` (
	`question_id` text NOT NULL,
	`student_id` text NOT NULL,
	`value` real NOT NULL,
	`created_at` integer NOT NULL,
	PRIMARY KEY(`question_id`, `student_id`)
);
--> statement-breakpoint
CREATE TABLE `questions` (
	`id` text PRIMARY KEY NOT NULL,
	`class_id` text NOT NULL,
	`content` text NOT NULL,
	`truth` text,
	`state` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `questions_of_class` ON `questions` (`class_id`,`created_at`);