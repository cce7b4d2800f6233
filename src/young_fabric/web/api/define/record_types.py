"""Record types: what all nouns have."""

from __future__ import annotations

from young_fabric.core.nouns.content.record_types import NOUN
from young_fabric.service.defining import records
from young_fabric.web.api.shared.nouns import NounApi, register_noun_api
from young_fabric.web.schemas import records as s

api = register_noun_api(NounApi(NOUN, s.RecordTypeOut, records.types_overview))
