select t.kind, x.object_id, x.valid_from, x.valid_until from existence x join thing t on t.id = x.object_id where t.kind in ('person', 'group')
