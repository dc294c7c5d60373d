"""The posable figure: skeleton, joint limits, pose, landmarks, camera and mass, without pictures."""
