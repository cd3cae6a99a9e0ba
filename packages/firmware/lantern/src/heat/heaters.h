/* heaters.h: what is heated. */
#pragma once
enum { HOTEND, BED, HEATERS };
