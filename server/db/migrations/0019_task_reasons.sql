-- A task keeps its reason apart from the name of the rule that made it; the name is read from the rule.
UPDATE tasks
SET because = substr(tasks.because, length(made.name) + 3)
FROM (
  SELECT runs.id AS run_id, json_extract(rule_versions.document, '$.name') AS name
  FROM runs
  JOIN rule_versions ON rule_versions.id = runs.version_id
) AS made
WHERE made.run_id = tasks.run_id
  AND substr(tasks.because, 1, length(made.name) + 2) = made.name || ': ';
