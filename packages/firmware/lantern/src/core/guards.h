/* guards.h: limits that no setting may pass, whatever the option catalogue allows. A failed guard names its setting
 * in square brackets, so that whoever reads the build log finds it. */
#pragma once
/* The step timer counts whole nanoseconds and must leave 2 us for the step itself. */
#define STEP_RATE_LIMIT 500000.0f
