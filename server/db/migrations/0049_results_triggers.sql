-- A part of the figures of a rule is counted anew when something in it changed, whoever changed it.
CREATE TRIGGER results_run_began AFTER INSERT ON runs
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'runs', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_run_went AFTER UPDATE OF state, undone_at ON runs
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'runs', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_measure_began AFTER INSERT ON measures
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'measures', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_measure_went AFTER UPDATE OF reached_at, undone ON measures
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'measures', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_task_made AFTER INSERT ON tasks
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'tasks', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_task_went AFTER UPDATE OF state, due, assignee_id ON tasks
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'tasks', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_message_made AFTER INSERT ON messages
  WHEN NEW.rule_id IS NOT NULL
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'messages', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_message_went AFTER UPDATE OF state, kind, answered_at, opted_out_at ON messages
  WHEN NEW.rule_id IS NOT NULL
BEGIN
  INSERT INTO result_parts (rule_id, kind, part) VALUES (NEW.rule_id, 'messages', NEW.id >> 12)
  ON CONFLICT (rule_id, kind, part) DO UPDATE SET stale = 1 WHERE stale = 0;
END;
--> statement-breakpoint
CREATE TRIGGER results_run_undone AFTER UPDATE OF undone_at ON runs
BEGIN
  UPDATE measures SET undone = NEW.undone_at IS NOT NULL WHERE run_id = NEW.id;
END;
--> statement-breakpoint
-- What was there before is counted too.
INSERT INTO result_parts (rule_id, kind, part) SELECT DISTINCT rule_id, 'runs', id >> 12 FROM runs;
--> statement-breakpoint
INSERT INTO result_parts (rule_id, kind, part) SELECT DISTINCT rule_id, 'tasks', id >> 12 FROM tasks;
--> statement-breakpoint
INSERT INTO result_parts (rule_id, kind, part) SELECT DISTINCT rule_id, 'messages', id >> 12 FROM messages WHERE rule_id IS NOT NULL;
