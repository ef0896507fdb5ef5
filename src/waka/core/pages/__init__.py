"""Pages of what arrived: where a stack is to be cut, how pages are put together anew, where the sheet lies in a photo."""
