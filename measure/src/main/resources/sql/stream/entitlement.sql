select entitlement_id, application_id, valid_from, valid_until from entitlement
