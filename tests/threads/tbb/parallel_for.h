#pragma once

#include "plain_threads.h"
