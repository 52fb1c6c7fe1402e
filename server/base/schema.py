"""What the API takes and gives is built on this: pydantic's model, also made from an object's attributes."""

from pydantic import BaseModel, ConfigDict


class Schema(BaseModel):
    """A body that is taken or given. Ninja's own looks every field up through a getter of its own, which costs."""

    model_config = ConfigDict(from_attributes=True)
