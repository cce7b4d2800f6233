"""Who takes part: merchandisers who write everything, and shoppers who order, each over HTTP at either of two web processes."""

from __future__ import annotations

import random
import re
import threading
from collections.abc import Callable
from typing import Any

import requests
from book import Book

from young_fabric.demo.load import PEOPLE

TIMEOUT = 60
"""Seconds after which no answer is a hang."""
NOUNS = (
    "value_list",
    "record_type",
    "shared_copy",
    "field",
    "collection",
    "field_set",
    "option_set",
    "product_type",
    "layout",
    "record",
)
MOST_KEPT = 12
"""So many things of a noun a writer leaves standing."""


class Gone(Exception):
    """No answer came: what was asked for may have been done."""


class Client:
    """A browser session at one of the web processes."""

    def __init__(self, book: Book, ports: list[int], rng: random.Random, who: str) -> None:
        self.book, self.ports, self.rng, self.who = book, ports, rng, who
        self.http = requests.Session()
        self.csrf = ""

    def send(
        self, method: str, path: str, *, form: dict[str, Any] | None = None, body: Any = None
    ) -> requests.Response:
        """An answer; one of 500 or none in a minute is a finding. Raises Gone."""
        url = f"http://127.0.0.1:{self.rng.choice(self.ports)}{path}"
        headers = {"X-CSRF-Token": self.csrf, "Sec-Fetch-Site": "same-origin"}
        try:
            answer = self.http.request(
                method, url, json=body, data=form, headers=headers, timeout=TIMEOUT, allow_redirects=False
            )
        except requests.Timeout as error:
            self.book.find(f"hang: {method} {path}")
            raise Gone from error
        except requests.RequestException as error:
            self.book.status(self.who, 0)
            raise Gone from error
        self.book.status(self.who, answer.status_code)
        if answer.status_code == 500:
            self.book.find(f"500: {method} {path} {str(body or form or '')[:300]} → {answer.text[:200]}")
        if answer.status_code == 503:
            raise Gone
        return answer

    def sign_in(self, place: int = 0) -> None:
        email, _, password, _ = PEOPLE[place]
        self.csrf = self.send("GET", "/api/session").json()["csrf"]
        answer = self.send("POST", "/api/session", body={"email": email, "password": password})
        if answer.status_code == 200:
            self.csrf = answer.json()["csrf"]

    def api(self, method: str, path: str, body: Any = None) -> Any:
        """What the API answers, None where it refuses; signed in anew where it was signed out."""
        answer = self.send(method, f"/api{path}", body=body)
        if answer.status_code in (401, 403):
            self.sign_in()
            answer = self.send(method, f"/api{path}", body=body)
        return answer.json() if answer.status_code == 200 else None


def until(stop: threading.Event, act: Callable[[], None]) -> None:
    """Do something again and again; who gets no answer goes on."""
    while not stop.is_set():
        try:
            act()
        except Gone:
            stop.wait(0.5)


class Merchandiser:
    """Writes values, variants, stock and definitions of every noun; takes back, releases and goes back."""

    def __init__(self, client: Client, products: list[int], optioned: list[int]) -> None:
        self.client, self.rng, self.book = client, client.rng, client.book
        self.products, self.optioned = products, optioned
        self.record_types: list[str] = []
        self.made: dict[str, list[str]] = {noun: [] for noun in NOUNS}
        self.acts: list[tuple[int, str, Callable[[], None]]] = [
            (30, "values", self.value),
            (12, "variants", self.variant),
            (14, "stocks", self.stock),
            (16, "definitions", self.definition),
            (6, "settings", self.setting),
            (3, "bulk", self.bulk),
            (5, "undos", self.undo),
            (2, "releases", self.release),
            (1, "goings back", self.go_back),
            (4, "looks", self.look),
        ]

    def act(self) -> None:
        """One thing at random."""
        weights = [weight for weight, _, _ in self.acts]
        _, name, act = self.rng.choices(self.acts, weights)[0]
        act()
        self.book.count(name)

    def value(self) -> None:
        number = self.rng.choice(self.products)
        found = self.client.api("GET", f"/products/{number}")
        if found is None:
            return
        typed = {"price": f"{self.rng.randrange(100, 9000) / 100:.2f}"}
        if self.rng.random() < 0.2:
            typed = {"title": f"{found['title'][:40].split(' ~')[0]} ~{self.rng.randrange(1000)}"}
        done = self.client.api("PATCH", f"/products/{number}", {"version": found["version"], "values": typed})
        if done is not None and done["version"] > found["version"]:
            self.book.wrote("product", str(number), done["version"], str(typed))

    def variant(self) -> None:
        number = self.rng.choice(self.optioned)
        grid = self.client.api("GET", f"/products/{number}/variants")
        rows = [row for row in (grid or {}).get("rows", ()) if not row["retired"]]
        if not rows:
            return
        row = self.rng.choice(rows)
        price = f"{self.rng.randrange(100, 9000) / 100:.2f}"
        if self.rng.random() < 0.1:
            price = "about ten"
        body = {"edits": [{"id": row["id"], "version": row["version"], "values": {"price": price}}]}
        done = self.client.api("PATCH", f"/products/{number}/variants", body)
        after = next((found for found in (done or {}).get("rows", ()) if found["id"] == row["id"]), None)
        if after is not None and after["version"] > row["version"]:
            self.book.wrote("variant", f"{number}/{row['id']}", after["version"], price)

    def stock(self) -> None:
        number = self.rng.choice(self.optioned)
        if self.rng.random() < 0.5:
            grid = self.client.api("GET", f"/products/{number}/variants")
            rows = [row for row in (grid or {}).get("rows", ()) if not row["retired"]]
            if not rows:
                return
            row = self.rng.choice(rows)
            put = {"id": row["id"], "expected": row["stock"], "amount": (row["stock"] or 0) + self.rng.randrange(5)}
            self.client.api("PATCH", f"/products/{number}/variants", {"stocks": [put]})
            return
        number = self.rng.choice(self.products[:50])
        found = self.client.api("GET", f"/products/{number}")
        if found is not None:
            body = {"expected": found["stock"], "amount": (found["stock"] or 0) + self.rng.randrange(8)}
            self.client.api("PUT", f"/products/{number}/stock", body)

    def definition(self) -> None:
        noun = self.rng.choice(NOUNS)
        path, made = f"/{noun}s" if noun != "shared_copy" else "/shared_copies", self.made[noun]
        if len(made) < MOST_KEPT and (not made or self.rng.random() < 0.5):
            body: dict[str, Any] = {"name": f"Storm {self.rng.randrange(10**6)}"}
            if noun == "record":
                body["type"] = self.rng.choice(self.record_types or ["maker"])
            if noun == "field":
                body["kind"] = self.rng.choice(["text", "whole", "date", "colour"])
            done = self.client.api("POST", path, body)
            if done is not None:
                made.append(done["thing"]["key"])
                self.book.wrote(noun, done["thing"]["key"], done["version"], body["name"])
            return
        key = self.rng.choice(made)
        found = self.client.api("GET", f"{path}/{key}")
        if found is None:
            made.remove(key)
            return
        if self.rng.random() < 0.25:
            made.remove(key)
            self.client.api("DELETE", f"{path}/{key}?version={found['version']}")
            return
        body = {"version": found["version"], "name": f"Storm {self.rng.randrange(10**6)}"}
        done = self.client.api("PATCH", f"{path}/{key}", body)
        if done is not None and done["version"] > found["version"]:
            self.book.wrote(noun, key, done["version"], body["name"])

    def cards(self) -> None:
        """How many cards products have on listings, for the shop or a collection; its version is read first."""
        scope = self.rng.choice(["shop", "shop", "collection:storm_cheap"])
        found = self.client.api("GET", f"/listing_rules/open?scope={scope}")
        if found is None:
            return
        options = [
            choice["value"] for row in found["properties"] if row["code"] == "options" for choice in row["choices"]
        ]
        sets: list[dict[str, Any]] = [
            {"mode": self.rng.choice(["product", "variant", None])},
            {"mode": "by", "options": options[:1]} if options else {"mode": "by"},
            {"title": self.rng.choice(["{product}", "{product} {sku}", None])},
            {"no_variants": self.rng.choice(["keep", "drop", None])},
        ]
        cell = {"scope": scope, "field": "*", "surface": "listing_card", "version": found["version"]}
        self.client.api("PATCH", "/display_settings", {**cell, "set": self.rng.choice(sets)})

    def setting(self) -> None:
        if self.rng.random() < 0.4:
            self.cards()
            return
        cells = [
            {
                "field": field,
                "surface": "product_page",
                "set": {"label": self.rng.choice(["above", "beside", "none"])},
                "version": None,
            }
            for field in self.rng.sample(["price", "title", "sku", "description", "gtin", "contents"], 3)
        ]
        self.client.api("PATCH", "/display_settings/several", {"scope": "shop", "cells": cells})

    def bulk(self) -> None:
        """What reaches far: a condition over all products, a kind of field, values of an option taken off and put back."""
        which = self.rng.randrange(3)
        if which == 0:
            found = self.client.api("GET", "/collections/storm_cheap")
            if found is not None:
                most = str(self.rng.randrange(20, 200))
                condition = {"all": [{"field": "price", "op": "lt", "typed": most}]}
                self.client.api(
                    "PATCH", "/collections/storm_cheap", {"version": found["version"], "condition": condition}
                )
        elif which == 1:
            found = self.client.api("GET", "/option_sets/storm_covers")
            if found is not None:
                options = found["thing"]["options"]
                values = options[0]["values"]
                if len(values) > 2:
                    values.pop(self.rng.randrange(len(values)))
                else:
                    code = f"c{self.rng.randrange(100)}"
                    values.append({"code": code, "label": code.upper()})
                body = {"version": found["version"], "options": options}
                self.client.api("PATCH", "/option_sets/storm_covers", body)
        else:
            found = self.client.api("GET", "/fields/ss_storm_note")
            if found is not None:
                kind = self.rng.choice(["text", "long_text"])
                body = {"version": found["version"], "kind": kind, "options": {}, "limits": {}}
                self.client.api("PATCH", "/fields/ss_storm_note", body)

    def undo(self) -> None:
        found = self.client.api("GET", "/changes") or {}
        rows = [row for row in found.get("changes", ()) if not row["undone"]]
        if rows:
            self.client.api("POST", f"/changes/{self.rng.choice(rows)['id']}/undo")

    def release(self) -> None:
        self.client.api("POST", "/releases", {"note": "storm"})

    def go_back(self) -> None:
        found = (self.client.api("GET", "/releases") or {}).get("releases", ())
        if len(found) > 2:
            self.client.api("POST", f"/releases/{self.rng.choice(found[1:6])['number']}/back", {"note": "storm"})

    def look(self) -> None:
        self.client.api(
            "GET", self.rng.choice(["/pending", "/checks", "/jobs", "/housekeeping", "/counts", "/find?words=storm"])
        )


class Shopper:
    """Puts things in and orders them."""

    def __init__(self, client: Client) -> None:
        self.client, self.rng, self.book = client, client.rng, client.book

    def act(self) -> None:
        """From a listing to an order."""
        self.client.http.cookies.clear()
        page = self.client.send(
            "GET", self.rng.choice(["/shop/", "/shop/c/sketchbooks", "/shop/c/paint", "/shop/c/easels"])
        ).text
        slugs = re.findall(r'href="/shop/p/([^"?]+)', page)
        for slug in self.rng.sample(slugs, min(len(slugs), 2)):
            self.put_in(slug)
        hidden = dict(
            re.findall(r'type="hidden" name="(\w+)" value="([^"]*)"', self.client.send("GET", "/shop/checkout").text)
        )
        if "total" not in hidden:
            return
        form = {"name": "A storm", **hidden}
        for _ in range(2 if self.rng.random() < 0.1 else 1):
            answer = self.client.send("POST", "/shop/checkout", form=form)
            if answer.status_code == 303 and "/shop/order/" in answer.headers["Location"]:
                self.book.ordered(answer.headers["Location"])

    def put_in(self, slug: str) -> None:
        page = self.client.send("GET", f"/shop/p/{slug}").text
        number = re.search(r'name="\.product" value="(\d+)"', page)
        if number is None:
            return
        form: dict[str, Any] = {".product": number[1], ".quantity": str(self.rng.choice([1, 1, 1, 2, 3]))}
        for key in dict.fromkeys(re.findall(r'data-option="(\w+)"', page)):
            values = re.findall(rf'name="{key}"[^>]*value="([^"]+)"', page)
            if values:
                form[key] = self.rng.choice(values)
        self.client.send("POST", "/shop/basket", form=form)
        self.book.count("put in")
