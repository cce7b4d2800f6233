"""Field sets: what all nouns have."""

from __future__ import annotations

from young_fabric.core.nouns.types.field_sets import NOUN
from young_fabric.service.defining import field_sets
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.schemas import nouns as s

api = register_noun_api(NounApi(NOUN, s.FieldSetOut, field_sets.overview))
