ALTER TABLE `checkpoints` ADD `deleted_at` integer;--> statement-breakpoint
ALTER TABLE `comparisons` ADD `deleted_at` integer;--> statement-breakpoint
ALTER TABLE `environments` ADD `edited` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
UPDATE `environments` SET `edited` = `revision`;
