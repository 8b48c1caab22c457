package jamjar.server.alerts;

import jakarta.validation.Valid;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What a person is to do when something is wrong. */
@RestController
@RequestMapping(path = "/api/what-to-do", produces = "application/json")
class WhatToDoController {
  private final AlertStories stories;

  WhatToDoController(AlertStories stories) {
    this.stories = stories;
  }

  @GetMapping
  List<WhatToDo> all() {
    return stories.all();
  }

  @PutMapping
  WhatToDo put(@Valid @RequestBody WhatToDo told) {
    return stories.put(told);
  }
}
