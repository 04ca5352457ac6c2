ALTER TABLE `classes` ADD `followed` text;--> statement-breakpoint
ALTER TABLE `classes` ADD `shown` text;