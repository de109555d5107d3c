select person_id, status, valid_from, valid_until from status
