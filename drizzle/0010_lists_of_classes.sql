CREATE TABLE `__new_assignments` (
	`id` text PRIMARY KEY NOT NULL,
	`class_id` text NOT NULL,
	`name` text NOT NULL,
	`points` real NOT NULL,
	`hidden` integer NOT NULL,
	`tries` integer,
	`closes_at` integer,
	`made_up_names` integer NOT NULL,
	`created_at` integer NOT NULL,
	`revealed_at` integer,
	`withdrawn_at` integer,
	`content` text NOT NULL
);
--> statement-breakpoint
INSERT INTO `__new_assignments`
	SELECT `id`, `class_id`, json_extract(`content`, '$.name'),
		(SELECT sum(json_extract(value, '$.points')) FROM json_each(`content`, '$.levels')),
		json_extract(`content`, '$.seeds.hidden') IS NOT NULL,
		`tries`, `closes_at`, `made_up_names`, `created_at`, `revealed_at`, `withdrawn_at`, `content`
	FROM `assignments`;
--> statement-breakpoint
DROP TABLE `assignments`;
--> statement-breakpoint
ALTER TABLE `__new_assignments` RENAME TO `assignments`;
--> statement-breakpoint
CREATE INDEX `assignments_of_class` ON `assignments` (`class_id`,`created_at`);
--> statement-breakpoint
CREATE TABLE `__new_hand_ins` (
	`id` text PRIMARY KEY NOT NULL,
	`assignment_id` text NOT NULL,
	`student_id` text NOT NULL,
	`state` text NOT NULL,
	`created_at` integer NOT NULL,
	`scored_at` integer,
	`open_points` real,
	`hidden_points` real,
	`level_points` text,
	`problems` text,
	`content` text NOT NULL,
	`open` text,
	`hidden` text
);
--> statement-breakpoint
INSERT INTO `__new_hand_ins`
	SELECT `id`, `assignment_id`, `student_id`, `state`, `created_at`, `scored_at`, `open_points`, `hidden_points`,
		CASE WHEN `open` IS NOT NULL THEN
			(SELECT json_group_array(json_extract(value, '$.points')) FROM json_each(`open`, '$.score.levels')) END,
		`problems`, `content`, `open`, `hidden`
	FROM `hand_ins`;
--> statement-breakpoint
DROP TABLE `hand_ins`;
--> statement-breakpoint
ALTER TABLE `__new_hand_ins` RENAME TO `hand_ins`;
--> statement-breakpoint
CREATE INDEX `hand_ins_of_assignment` ON `hand_ins` (`assignment_id`,`student_id`,`created_at`);
--> statement-breakpoint
CREATE INDEX `hand_ins_of_student` ON `hand_ins` (`student_id`,`state`,`assignment_id`,`open_points`);
--> statement-breakpoint
CREATE INDEX `hand_ins_by_state` ON `hand_ins` (`state`,`created_at`);
