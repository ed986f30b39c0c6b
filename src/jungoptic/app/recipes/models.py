"""Recipes that were chosen for shots, what they planned, and what was ticked off."""

from __future__ import annotations

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.vocabulary.own import book


class ShotRecipe(models.Model):
    """A recipe that was chosen for a shot: one of the trade's by key, or one that the production saved
    (``own``, a template shot).
    """

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="recipes")
    key = models.CharField(max_length=24, blank=True)
    own = models.ForeignKey(Shot, on_delete=models.PROTECT, null=True, blank=True, related_name="used_by")
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(key="", own__isnull=True), name="recipe_is_one")]

    @property
    def name(self) -> str:
        found = book().recipes.get(self.key)
        return found.title if found else self.own.title if self.own else self.key


class RecipeAnswer(models.Model):
    """What was answered to one thing that the recipe asks."""

    recipe = models.ForeignKey(ShotRecipe, on_delete=models.CASCADE, related_name="answers")
    name = models.CharField(max_length=24)
    value = models.FloatField()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["recipe", "name"], name="one_answer_a_question")]


class PlannedLayer(models.Model):
    """When and why then a layer is filmed and what is ticked off at it, from the recipe that planned it."""

    layer = models.OneToOneField(Layer, on_delete=models.CASCADE, related_name="planned")
    recipe = models.ForeignKey(ShotRecipe, on_delete=models.CASCADE, related_name="layers")
    why = models.TextField(blank=True)
    rank = models.PositiveSmallIntegerField(
        null=True, blank=True, help_text="Place in the recipe's filming order; empty = with its set-up."
    )
    checks = ArrayField(models.CharField(max_length=200), default=list, blank=True)


class Tick(models.Model):
    """A check of a layer that somebody has ticked off."""

    layer = models.ForeignKey(Layer, on_delete=models.CASCADE, related_name="ticks")
    text = models.CharField(max_length=200)
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["layer", "text"], name="ticked_once")]
