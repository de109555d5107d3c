select group_id, filter, valid_from, valid_until from group_form
