"""Definitions as documents of any noun, changes as patches, one table of live documents, sessions the server knows."""

from collections import defaultdict
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from young_fabric.core.base.hashes import content_hash
from young_fabric.core.base.merge import ABSENT
from young_fabric.core.base.patches import diff

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

NOUNS = {
    "list": "value_list",
    "field": "field",
    "set": "field_set",
    "type": "product_type",
    "setting": "display_setting",
}
KEYED = {
    "value_list": {"values": "code"},
    "field_set": {"sections": "key", "sections/*/fields": ""},
    "product_type": {"sets": "", "fields": ""},
}
FORMATS = {"field": 2}
BATCH = 500
NODES = {"long_text": "paragraphs", "picture": "pictures", "colour": "swatches"}
BUILT_IN = {"pictures": "picture", "description": "long_text"}


def upgrade() -> None:
    """Make the new tables, carry everything over, and drop the old ones."""
    op.execute("CREATE EXTENSION IF NOT EXISTS pg_trgm")
    _make_tables()
    _change_tables()
    definitions = _old_definitions()
    _write_definitions(definitions)
    _carry_changes()
    _carry_live_things()
    _carry_documents({key: state["kind"] for (noun, key), (state, _, _) in definitions.items() if noun == "field"})
    op.execute(
        "UPDATE unreleased SET noun = n.new FROM (VALUES ('list','value_list'),('set','field_set'),('type','product_type'),('setting','display_setting')) AS n(old, new) WHERE noun = n.old"
    )
    op.execute(
        "UPDATE unreleased AS u SET hash = d.hash FROM definition AS d WHERE d.noun = u.noun AND d.key = u.key AND u.hash IS NOT NULL"
    )
    _bind_products()
    _drop_tables()


def downgrade() -> None:
    """Patches and documents can't be turned back into what they came from."""
    raise RuntimeError("This step can't be taken back: restore the copy made before it")


def _rows(sql: str, **values: Any) -> list[Any]:
    return list(op.get_bind().execute(sa.text(sql), values).mappings())


def _write(sql: str, rows: list[dict[str, Any]], **types: Any) -> None:
    statement = sa.text(sql).bindparams(*[sa.bindparam(name, type_=kind) for name, kind in types.items()])
    for start in range(0, len(rows), BATCH):
        op.get_bind().execute(statement, rows[start : start + BATCH])


def _make_tables() -> None:
    text, jsonb = sa.String(), postgresql.JSONB()
    op.create_table(
        "definition",
        sa.Column("noun", text, nullable=False),
        sa.Column("key", text, nullable=False),
        sa.Column("name", text, nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("format", sa.Integer(), nullable=False),
        sa.Column("state", jsonb, nullable=False),
        sa.Column("hash", text, nullable=False),
        sa.Column("address", text, nullable=True),
        sa.Column("of_subject", text, nullable=True),
        sa.Column("stamp", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("noun", "key", name="pk_definition"),
    )
    op.create_index("uq_definition_address", "definition", ["address"], unique=True)
    op.create_index(
        "ix_definition_of_subject", "definition", ["of_subject"], postgresql_where=sa.text("of_subject IS NOT NULL")
    )
    op.create_table(
        "reference",
        *[sa.Column(name, text, nullable=False) for name in ("noun", "key", "to_noun", "to_key", "place")],
        sa.PrimaryKeyConstraint("noun", "key", "to_noun", "to_key", "place", name="pk_reference"),
        sa.ForeignKeyConstraint(
            ["noun", "key"], ["definition.noun", "definition.key"], name="fk_reference_definition", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["to_noun", "to_key"], ["definition.noun", "definition.key"], name="fk_reference_to_definition"
        ),
    )
    op.create_index("ix_reference_to", "reference", ["to_noun", "to_key"])
    op.create_table(
        "live_document",
        sa.Column("id", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("surface", text, nullable=False),
        sa.Column("subject", text, nullable=False),
        sa.Column("subject_id", text, nullable=False),
        sa.Column("card", text, server_default=sa.text("''"), nullable=False),
        sa.Column("address", text, nullable=True),
        sa.Column("title", text, nullable=False),
        sa.Column("listed", sa.Boolean(), nullable=False),
        sa.Column("under", postgresql.ARRAY(sa.Text()), nullable=False),
        sa.Column("document", jsonb, nullable=False),
        sa.Column("format", sa.Integer(), nullable=False),
        sa.Column("hash", text, nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.Column("until", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("id", name="pk_live_document"),
    )
    op.create_table(
        "sign_in_session",
        sa.Column("id", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("token", text, nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("begun", sa.DateTime(timezone=True), nullable=False),
        sa.Column("seen", sa.DateTime(timezone=True), nullable=False),
        sa.Column("browser", text, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sign_in_session"),
        sa.UniqueConstraint("token", name="uq_sign_in_session_token"),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name="fk_sign_in_session_person_id_person", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_sign_in_session_person_id", "sign_in_session", ["person_id"])
    op.create_table(
        "sign_in_try",
        sa.Column("id", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("address", text, nullable=False),
        sa.Column("account", text, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_sign_in_try"),
    )
    op.create_index("ix_sign_in_try_address", "sign_in_try", ["address", "at"])
    op.create_index("ix_sign_in_try_account", "sign_in_try", ["account", "at"])


def _change_tables() -> None:
    jsonb = postgresql.JSONB()
    op.drop_column("person", "epoch")
    op.add_column("shop", sa.Column("title_order", sa.String(), server_default=sa.text("'und-x-icu'"), nullable=False))
    op.execute(
        "UPDATE shop SET title_order = coalesce((SELECT collname FROM pg_collation WHERE collprovider = 'i' AND collname IN "
        "(replace(locale, '_', '-') || '-x-icu', split_part(replace(locale, '_', '-'), '-', 1) || '-x-icu') "
        "ORDER BY length(collname) DESC LIMIT 1), 'und-x-icu')"
    )
    op.add_column("live_thing", sa.Column("format", sa.Integer(), server_default=sa.text("1"), nullable=False))
    op.alter_column("live_thing", "format", server_default=None)
    op.add_column("release", sa.Column("job_id", sa.BigInteger(), nullable=True))
    op.add_column("release", sa.Column("counts", jsonb, server_default=sa.text("'{}'"), nullable=False))
    op.add_column("release", sa.Column("plan_hashes", jsonb, server_default=sa.text("'[]'"), nullable=False))
    op.add_column("release", sa.Column("held_back", jsonb, server_default=sa.text("'[]'"), nullable=False))
    op.execute("UPDATE release SET counts = jsonb_build_object('product_page', pages, 'listing_card', cards)")
    for column in ("counts", "plan_hashes"):
        op.alter_column("release", column, server_default=None)
    for column in ("pages", "cards", "plans"):
        op.drop_column("release", column)
    op.add_column("job", sa.Column("args", jsonb, server_default=sa.text("'{}'"), nullable=False))
    op.add_column("job", sa.Column("exclusive", sa.String(), nullable=True))
    op.execute("UPDATE job SET args = jsonb_build_object('note', note), exclusive = 'release'")
    op.drop_column("job", "note")
    op.drop_index("uq_job_open", table_name="job")
    open_job = sa.text("exclusive IS NOT NULL AND state IN ('waiting', 'running')")
    op.create_index("uq_job_open", "job", ["exclusive"], unique=True, postgresql_where=open_job)
    op.create_index("ix_job_state", "job", ["state", "beat"])
    op.add_column(
        "field_fill",
        sa.Column("collections", postgresql.ARRAY(sa.Text()), server_default=sa.text("'{}'"), nullable=False),
    )
    op.drop_constraint("pk_field_fill", "field_fill")
    op.create_primary_key("pk_field_fill", "field_fill", ["field_key", "type_key", "collections"])
    op.alter_column("field_fill", "collections", server_default=None)
    op.add_column(
        "change", sa.Column("lines", postgresql.ARRAY(sa.Text()), server_default=sa.text("'{}'"), nullable=False)
    )
    op.add_column("change", sa.Column("patch", jsonb, server_default=sa.text("'{}'"), nullable=False))
    op.add_column("change", sa.Column("format", sa.Integer(), server_default=sa.text("1"), nullable=False))
    op.add_column("change", sa.Column("version", sa.Integer(), server_default=sa.text("1"), nullable=False))
    op.alter_column("change", "turn", new_column_name="undo_depth")
    op.drop_constraint("uq_change_undoes", "change")
    op.create_index("uq_change_undoes", "change", ["undoes"], unique=True)
    op.drop_column("stock", "version")


def _old_definitions() -> dict[tuple[str, str], tuple[dict[str, Any], int, str]]:
    """(noun, key) → (state, version, name) out of the old tables."""
    found: dict[tuple[str, str], tuple[dict[str, Any], int, str]] = {}
    values = defaultdict(list)
    for row in _rows("SELECT * FROM list_value ORDER BY list_key, position"):
        values[row["list_key"]].append({name: row[name] for name in ("code", "label", "synonyms", "retired")})
    for row in _rows("SELECT * FROM value_list"):
        state = {"key": row["key"], "name": row["name"], "values": values[row["key"]]}
        found["value_list", row["key"]] = state, row["version"], row["name"]
    for row in _rows("SELECT * FROM field"):
        plain = ("key", "name", "label", "kind", "many", "need", "audience", "help", "example")
        old = {name: row[name] for name in plain} | {"unit": row["unit"], "list": row["list_key"]}
        state = field_state({**old, "limits": row["limits"], "default": row["default_value"]})
        found["field", row["key"]] = state, row["version"], row["name"]
    inside = defaultdict(list)
    for row in _rows("SELECT * FROM section_field ORDER BY set_key, section_key, position"):
        inside[row["set_key"], row["section_key"]].append(row["field_key"])
    sections = defaultdict(list)
    for row in _rows("SELECT * FROM section ORDER BY set_key, position"):
        fields = inside[row["set_key"], row["key"]]
        sections[row["set_key"]].append({"key": row["key"], "name": row["name"], "fields": fields})
    for row in _rows("SELECT * FROM field_set"):
        state = {"key": row["key"], "name": row["name"], "sections": sections[row["key"]]}
        found["field_set", row["key"]] = state, row["version"], row["name"]
    takes: dict[str, Any] = {"sets": defaultdict(list), "fields": defaultdict(list), "needs": defaultdict(dict)}
    for row in _rows("SELECT * FROM type_set ORDER BY type_key, position"):
        takes["sets"][row["type_key"]].append(row["set_key"])
    for row in _rows("SELECT * FROM type_field ORDER BY type_key, position"):
        takes["fields"][row["type_key"]].append(row["field_key"])
    for row in _rows("SELECT * FROM type_need ORDER BY type_key, field_key"):
        takes["needs"][row["type_key"]][row["field_key"]] = row["need"]
    for row in _rows("SELECT * FROM product_type"):
        state = {name: row[name] for name in ("key", "name", "parent", "slug")}
        state |= {member: rows[row["key"]] for member, rows in takes.items()}
        found["product_type", row["key"]] = state, row["version"], row["name"]
    for row in _rows("SELECT * FROM display_setting"):
        scope = {"kind": row["scope_kind"], "key": row["scope_key"]}
        state = {"scope": scope, "field": row["field"], "surface": row["surface"], "set": row["properties"]}
        found["display_setting", setting_key(state)] = state, row["version"], row["field"]
    return found


def setting_key(state: dict[str, Any]) -> str:
    """The key of a setting's state."""
    scope = state["scope"]
    name = scope["kind"] if scope["kind"] == "shop" else f"{scope['kind']}:{scope['key']}"
    return f"{name}/{state['field']}/{state['surface']}"


def field_state(state: dict[str, Any]) -> dict[str, Any]:
    """A field's state as format 2 has it."""
    if "options" in state:
        return state
    options = {name: state[name] for name in ("unit", "list") if state.get(name) is not None}
    limits = {name: value for name, value in (state.get("limits") or {}).items() if value not in (None, False)}
    limits.pop("required", None)
    rest = {name: value for name, value in state.items() if name not in ("unit", "list", "own", "limits")}
    return {**rest, "options": options, "limits": limits}


def as_now(noun: str, state: dict[str, Any] | None) -> Any:
    """A state of a noun as it is written now; ABSENT for none."""
    if state is None:
        return ABSENT
    return field_state(state) if noun == "field" else state


def references(noun: str, state: dict[str, Any], known: set[tuple[str, str]]) -> set[tuple[str, str, str]]:
    """(noun, key, place) of all that a state refers to and that is there."""
    found: set[tuple[str, str, str]] = set()
    if noun == "field" and "list" in state["options"]:
        found.add(("value_list", state["options"]["list"], "options.list"))
    elif noun == "field_set":
        found |= {("field", key, f"sections.{part['key']}") for part in state["sections"] for key in part["fields"]}
    elif noun == "product_type":
        if state["parent"] is not None:
            found.add(("product_type", state["parent"], "parent"))
        found |= {("field_set", key, "sets") for key in state["sets"]}
        found |= {("field", key, member) for member in ("fields", "needs") for key in state[member]}
    elif noun == "display_setting":
        found.add(("field", state["field"], "field"))
        if state["scope"]["kind"] == "type":
            found.add(("product_type", state["scope"]["key"], "scope"))
    return {row for row in found if row[:2] in known}


def _write_definitions(definitions: dict[tuple[str, str], tuple[dict[str, Any], int, str]]) -> None:
    stamp = (_rows("SELECT coalesce(max(stamp), 0) AS stamp FROM shop") or [{"stamp": 0}])[0]["stamp"]
    rows, links = [], []
    known = set(definitions)
    for (noun, key), (state, version, name) in definitions.items():
        of_subject = key.split("/")[0] if noun == "display_setting" and key.startswith("product:") else None
        rows.append(
            {
                "noun": noun,
                "key": key,
                "name": name,
                "version": version,
                "format": FORMATS.get(noun, 1),
                "state": state,
                "hash": content_hash(state),
                "address": state["slug"] if noun == "product_type" else None,
                "of_subject": of_subject,
                "stamp": stamp,
            }
        )
        for to_noun, to_key, place in sorted(references(noun, state, known)):
            links.append({"noun": noun, "key": key, "to_noun": to_noun, "to_key": to_key, "place": place})
    _write(
        "INSERT INTO definition (noun, key, name, version, format, state, hash, address, of_subject, stamp) VALUES "
        "(:noun, :key, :name, :version, :format, :state, :hash, :address, :of_subject, :stamp)",
        rows,
        state=postgresql.JSONB(),
    )
    _write(
        "INSERT INTO reference (noun, key, to_noun, to_key, place) VALUES (:noun, :key, :to_noun, :to_key, :place)",
        links,
    )


def _carry_changes() -> None:
    """Whole states become patches and words; each change gets the version its thing had after it."""
    describe = _describer()
    versions: dict[tuple[str, str], int] = defaultdict(int)
    last = 0
    while rows := _rows(
        "SELECT id, noun, key, before, after FROM change WHERE id > :last ORDER BY id LIMIT 1000", last=last
    ):
        last = rows[-1]["id"]
        out = []
        for row in rows:
            noun = NOUNS.get(row["noun"], row["noun"])
            before, after = as_now(noun, row["before"]), as_now(noun, row["after"])
            versions[noun, row["key"]] += 1
            out.append(
                {
                    "id": row["id"],
                    "noun": noun,
                    "patch": diff(before, after, KEYED.get(noun)) or {"in": {}},
                    "lines": describe(noun, row["before"] and before, row["after"] and after),
                    "format": FORMATS.get(noun, 1),
                    "version": versions[noun, row["key"]],
                }
            )
        _write(
            "UPDATE change SET noun = :noun, patch = :patch, lines = :lines, format = :format, version = :version WHERE id = :id",
            out,
            patch=postgresql.JSONB(),
            lines=postgresql.ARRAY(sa.Text()),
        )
    for table, key in (("definition", "d.key"), ("product", "d.id::text")):
        noun = "d.noun" if table == "definition" else "'product'"
        op.execute(
            f"UPDATE {table} AS d SET version = greatest(d.version, c.version) FROM "  # noqa: S608
            f"(SELECT noun, key, max(version) AS version FROM change GROUP BY noun, key) AS c WHERE c.noun = {noun} AND c.key = {key}"
        )
    for column in ("before", "after"):
        op.drop_column("change", column)
    for column in ("lines", "patch", "format", "version"):
        op.alter_column("change", column, server_default=None)


def _describer() -> Any:
    from pydantic import TypeAdapter

    from young_fabric.core.base.shop import Shop
    from young_fabric.core.definitions.definitions import Definitions
    from young_fabric.core.nouns.registry import NOUNS as nouns
    from young_fabric.core.nouns.registry import describe
    from young_fabric.core.subjects.products import describe_product, describe_stock

    things: dict[str, dict[str, Any]] = defaultdict(dict)
    adapters: dict[str, TypeAdapter[Any]] = {code: TypeAdapter(noun.type) for code, noun in nouns.items()}
    for row in _rows("SELECT noun, key, state FROM definition"):
        things[row["noun"]][row["key"]] = adapters[row["noun"]].validate_python(row["state"])
    defs = Definitions(Shop(), things)

    def words(noun: str, before: Any, after: Any) -> list[str]:
        if noun in nouns:
            return describe(nouns[noun], before, after, defs)
        return (describe_stock if noun == "stock" else describe_product)(before, after, defs)

    return words


def _carry_live_things() -> None:
    rows = _rows("SELECT id, noun, state FROM live_thing WHERE noun <> 'product'")
    out = []
    for row in rows:
        noun = NOUNS[row["noun"]]
        state = as_now(noun, row["state"])
        out.append(
            {"id": row["id"], "noun": noun, "state": state, "hash": content_hash(state), "format": FORMATS.get(noun, 1)}
        )
    _write(
        "UPDATE live_thing SET noun = :noun, state = :state, hash = :hash, format = :format WHERE id = :id",
        out,
        state=postgresql.JSONB(),
    )


def node_of(kind: str | None, text: str, value: Any) -> list[Any]:
    """What an entry of format 1 shows, as a node."""
    if value is None and text == "–":
        return ["nothing", text]
    node = NODES.get(kind or "", "text")
    items = value if isinstance(value, list) else [value]
    if node == "pictures":
        return ["pictures", items]
    if node == "swatches":
        return ["swatches", [[item, item] for item in items]]
    if node == "paragraphs" or "\n" in text:
        return ["paragraphs", [part.split("\n") for part in text.split("\n\n")]]
    return ["text", text]


def plain_value(value: Any) -> Any:
    """A computed price without trailing noughts; all else as it is."""
    if isinstance(value, dict) and value.keys() == {"amount", "reference", "unit"} and "." in value["amount"]:
        return {**value, "amount": value["amount"].rstrip("0").rstrip(".")}
    return value


def region_of(data: dict[str, Any], kinds: dict[str, str], stand_ins: bool) -> dict[str, Any]:
    """A region of format 1 as format 2 has it."""
    blocks: list[dict[str, Any]] = []
    for block in data["blocks"]:
        if "regions" in block:
            inner = [region_of(part, kinds, stand_ins) for part in block["regions"]]
            blocks.append({"id": block["id"], "kind": "columns", "regions": inner})
            continue
        entries = [
            [field, label, label_at, node_of(kinds.get(field), text, value), plain_value(value), devices]
            for field, label, label_at, text, value, devices in block["entries"]
        ]
        entries = [entry for entry in entries if stand_ins or entry[3][0] != "nothing"]
        blocks.append({**block, "entries": entries})
    return {"id": data["id"], "blocks": blocks}


def _carry_documents(kinds: dict[str, str]) -> None:
    """Pages, data and cards of every release become live documents."""
    all_kinds = {**kinds, **BUILT_IN}
    parents = {
        row["key"]: row["state"]["parent"]
        for row in _rows("SELECT key, state FROM live_thing WHERE noun = 'product_type' ORDER BY since")
    }

    def chain(key: str | None) -> list[str]:
        out: list[str] = []
        while key is not None and key not in out:
            out.append(key)
            key = parents.get(key)
        return out

    for table, documents in (
        ("live_doc", (("page", "product_page", True), ("facts", "structured_data", False))),
        ("live_card", (("card", "listing_card", True),)),
    ):
        last = 0
        while rows := _rows(f"SELECT * FROM {table} WHERE id > :last ORDER BY id LIMIT {BATCH}", last=last):  # noqa: S608
            last = rows[-1]["id"]
            out = []
            for row in rows:
                for column, surface, stand_ins in documents:
                    old = row[column]
                    document = {**old, "region": region_of(old["region"], all_kinds, stand_ins)}
                    under = row["types"] if table == "live_card" else chain(row["type_key"])
                    out.append(
                        {
                            "surface": surface,
                            "subject_id": str(row["product_id"]),
                            "address": row["slug"],
                            "title": row["title"],
                            "listed": surface == "listing_card",
                            "under": under,
                            "document": document,
                            "hash": content_hash([2, row["slug"], row["title"], under, document]),
                            "since": row["since"],
                            "until": row["until"],
                        }
                    )
            _write(
                "INSERT INTO live_document (surface, subject, subject_id, card, address, title, listed, under, document, format, hash, since, until) "
                "VALUES (:surface, 'product', :subject_id, '', :address, :title, :listed, :under, :document, 2, :hash, :since, :until)",
                out,
                document=postgresql.JSONB(),
                under=postgresql.ARRAY(sa.Text()),
            )
    open_row = "until IS NULL"
    op.create_index(
        "uq_live_document_open",
        "live_document",
        ["surface", "subject", "subject_id", "card"],
        unique=True,
        postgresql_where=sa.text(open_row),
    )
    op.create_index(
        "ix_live_document_subject", "live_document", ["subject", "subject_id"], postgresql_where=sa.text(open_row)
    )
    op.create_index("ix_live_document_address", "live_document", ["address"], postgresql_where=sa.text(open_row))
    op.create_index(
        "ix_live_document_under",
        "live_document",
        ["under"],
        postgresql_using="gin",
        postgresql_where=sa.text("until IS NULL AND listed"),
    )
    op.create_index("ix_live_document_since", "live_document", ["since"])
    op.create_index("ix_live_document_until", "live_document", ["until"])


def _bind_products() -> None:
    op.drop_constraint("fk_product_type_key_product_type", "product")
    op.drop_index("ix_product_search", table_name="product")
    op.drop_index("ix_product_title", table_name="product")
    op.drop_index("ix_product_type_key", table_name="product")
    op.add_column(
        "product", sa.Column("type_noun", sa.String(), sa.Computed("'product_type'", persisted=True), nullable=False)
    )
    searched = "lower(title || ' ' || coalesce(sku, '') || ' ' || coalesce(fields ->> 'gtin', ''))"
    op.add_column("product", sa.Column("search", sa.String(), sa.Computed(searched, persisted=True), nullable=False))
    op.add_column(
        "product", sa.Column("collections", postgresql.ARRAY(sa.Text()), server_default=sa.text("'{}'"), nullable=False)
    )
    op.create_foreign_key("fk_product_type", "product", "definition", ["type_noun", "type_key"], ["noun", "key"])
    op.create_index("ix_product_group", "product", ["type_key", "collections"])
    op.create_index(
        "ix_product_search", "product", ["search"], postgresql_using="gin", postgresql_ops={"search": "gin_trgm_ops"}
    )


def _drop_tables() -> None:
    for name in (
        "type_need",
        "type_field",
        "type_set",
        "section_field",
        "section",
        "display_setting",
        "product_type",
        "field_set",
        "list_value",
        "field",
        "value_list",
        "live_doc",
        "live_card",
    ):
        op.execute(f"DROP TABLE {name} CASCADE")
