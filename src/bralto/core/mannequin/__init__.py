"""The posable figure: skeleton, limits, pose, landmarks, camera and mass, without pictures."""
