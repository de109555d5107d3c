select grant_id, person_id, group_id, filter, entitlement_id, source, valid_from, valid_until from given
