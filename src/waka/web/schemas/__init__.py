"""What the API takes and gives, as pydantic models. The OpenAPI document and the TypeScript client come from these."""
