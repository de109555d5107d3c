select group_id, member_id, member_kind, valid_from, valid_until from membership
